import type { Found } from '@gremium/contract';
import {
  type SectionRowsAsk,
  dayNumber,
  directory,
  fold,
  hiresNeedPosition,
  sectionRows,
  takesMore,
} from '@gremium/core';
import { outward } from './outward';
import type { Asking } from './questions';

const MOST = 6;

export type FindAsk = { text: string; free?: 'yes' | undefined };

export const findQuestions = {
  /** People, positions, units and jobs of the day by their names, codes and numbers; with `free`, where one can be hired into. */
  find: (asking: Asking, { text, free }: FindAsk): { found: Found[] } => {
    const kinds = free ? (['position', 'unit'] as const) : (['position', 'unit', 'job'] as const);
    const things = kinds.flatMap((kind) => named(asking, kind, { text, isFree: free === 'yes' }));
    return { found: [...(free ? [] : people(asking, text)), ...things] };
  },

  sectionRows: ({ facts, sight, looking }: Asking, ask: SectionRowsAsk) => {
    const { rows, total } = sectionRows(facts.columns, sight, { ...ask, on: looking.on });
    return { rows: rows.map(({ row, owner }) => ({ ...outward(row), owner })), total };
  },
};

const people = ({ facts, directory: texts, sight, looking }: Asking, search: string): Found[] => {
  const found: Found[] = [];
  for (const status of ['here', 'coming', 'left'] as const) {
    if (found.length >= MOST) break;
    const ask = { search, status, limit: MOST - found.length, offset: 0 };
    for (const line of directory(facts, texts, { ask, sight, on: looking.on }).people) {
      const about = [line.title, line.unit].filter(Boolean).join(', ') || line.number;
      found.push({ kind: 'person', id: line.id, name: line.name, about });
    }
  }
  return found;
};

// Folded texts of codes and titles are kept: most stand on many rows.
const folds = new Map<string, string>();
const folded = (text: string): string => {
  const known = folds.get(text);
  if (known !== undefined) return known;
  if (folds.size > 500_000) folds.clear();
  const made = fold(text);
  folds.set(text, made);
  return made;
};

type Named = 'position' | 'unit' | 'job';

// Every word must stand somewhere in the name, the code or the unit's name; those whose name begins with them come first.
const named = (
  { facts, sight, looking }: Asking,
  kind: Named,
  { text, isFree }: { text: string; isFree: boolean },
): Found[] => {
  const { columns, places } = facts;
  const day = dayNumber(looking.on);
  const words = fold(text).split(' ').filter(Boolean);
  const table = columns.table(kind);
  const units = columns.table('unit');
  const name = table.field(kind === 'position' ? 'title' : 'name');
  const code = table.field('code');
  const matching: (Found & { rank: number })[] = [];
  for (let slot = 0; slot < table.size; slot++) {
    if ((table.from[slot] as number) > day || day >= (table.until[slot] as number)) continue;
    const thing = table.thing[slot] as number;
    const unit = kind === 'position' ? units.slotOn(places.unit[places.on(thing, day)] ?? -1, day) : -1;
    const unitName = unit < 0 ? '' : (units.values(unit) as { name: string }).name;
    const called = name.words.texts[name.data[slot] as number] as string;
    const coded = code.words.texts[code.data[slot] as number] as string;
    const haystack = `${folded(called)} ${folded(coded)} ${folded(unitName)}`;
    if (!words.every((word) => haystack.includes(word))) continue;
    const id = table.things.ids[thing] as number;
    const rank = folded(called).startsWith(words.join(' ')) ? 0 : 1;
    matching.push({ kind, id, name: called, about: [unitName, coded].filter(Boolean).join(' · '), rank });
  }
  const isSeen = ({ id }: Found): boolean => {
    if (kind === 'unit') return sight.unit(id, day);
    return kind === 'position' ? sight.position(id, day) : sight.has('job');
  };
  const isOpen = ({ id }: Found): boolean =>
    !isFree ||
    (kind === 'unit' ? !hiresNeedPosition(columns, id, looking.on) : takesMore(columns, id, looking.on));
  const found: Found[] = [];
  for (const { rank: _, ...one } of matching.sort(
    (a, b) => a.rank - b.rank || a.name.length - b.name.length || a.id - b.id,
  ))
    if (found.length < MOST && isSeen(one) && isOpen(one)) found.push(one);
  return found;
};
