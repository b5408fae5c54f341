import type { Found, PersonLine } from '@gremium/contract';
import {
  type Fit,
  type SectionRowsAsk,
  dayNumber,
  findByOwn,
  findPeople,
  fitOf,
  fold,
  hiresNeedPosition,
  managerChain,
  markOf,
  personLine,
  sectionRows,
  takesMore,
} from '@gremium/core';
import { managersOut } from '../structure/lines';
import { outward } from './outward';
import type { Asking } from './questions';

const MOST = 6;
/** So many where things of one kind are asked for: what a picker shows without being scrolled long. */
const MOST_OF_ONE = 20;

export type FindAsk = {
  text: string;
  free?: 'yes' | 'first' | undefined;
  kind?: Found['kind'] | undefined;
  unit?: number | undefined;
};

// Of two that fit as well: people, then units before the positions in them that are called alike.
const KINDS = ['person', 'unit', 'job', 'grade', 'position'] as const;

type Fitting = Found & { fit: Fit };

export const findQuestions = {
  /**
   * People, positions, units and jobs of the day by their names, codes and numbers, the best fit first; with `free`, where one
   * can be hired into.
   */
  find: (asking: Asking, { text, free, kind, unit }: FindAsk): { found: Found[] } => {
    const isHire = free === 'yes';
    const kinds = kind ? [kind] : isHire ? (['position', 'unit'] as const) : KINDS;
    if (text === '' && !isHire) return { found: [] };
    const most = kind ? MOST_OF_ONE : MOST;
    const things = kinds.flatMap((one) =>
      one === 'person' ? people(asking, text, most) : named(asking, one, { text, free, unit, most }),
    );
    const found = things.sort((a, b) => a.fit - b.fit).map(({ fit: _, ...one }) => one);
    return { found };
  },

  /** Things by their ids, as they are found: those of the day that the viewer may see. */
  named: (asking: Asking, refs: readonly { kind: Found['kind']; id: number }[]): { found: Found[] } => ({
    found: refs.flatMap(({ kind, id }) => {
      const { facts, sight, looking } = asking;
      if (kind !== 'person') return thingNamed(asking, kind, id);
      const line = personLine(facts, id, { sight, on: looking.on });
      return line ? foundPerson(line) : [];
    }),
  }),

  sectionRows: ({ facts, sight, looking }: Asking, ask: SectionRowsAsk) => {
    const { rows, total } = sectionRows(facts.columns, sight, { ...ask, on: looking.on });
    return { rows: rows.map(({ row, owner }) => ({ ...outward(row), owner })), total };
  },
};

const people = (
  { facts, directory: texts, sight, looking }: Asking,
  search: string,
  limit: number,
): Fitting[] => {
  const called = findPeople(facts, texts, { search, limit, sight, on: looking.on }).map((line) => ({
    ...foundPerson(line),
    fit: line.fit,
  }));
  if (called.length >= limit) return called;
  const known = new Set(called.map(({ id }) => id));
  // by what the organisation keeps of them and says that they are found by
  const others = findByOwn(sight, { search, limit, on: looking.on }).flatMap(({ personId, text }) => {
    const line = known.has(personId) ? null : personLine(facts, personId, { sight, on: looking.on });
    known.add(personId);
    return line ? [{ ...foundPerson(line), about: text, fit: LAST }] : [];
  });
  return [...called, ...others].slice(0, limit);
};

// After all that is called so.
const LAST: Fit = 4;

const foundPerson = ({ id, name, title, unit, number }: PersonLine): Found => ({
  kind: 'person',
  id,
  name,
  about: [title, unit].filter(Boolean).join(', ') || number,
});

const thingNamed = ({ facts, sight, looking }: Asking, kind: Named, id: number): Found[] => {
  const { columns } = facts;
  const day = dayNumber(looking.on);
  const values = columns.at(kind, id, looking.on) as
    { name?: string; title?: string; code: string; unitId?: number } | undefined;
  const isSeen =
    kind === 'unit' ? sight.unit(id, day) : kind === 'position' ? sight.position(id, day) : sight.has(kind);
  if (!values || !isSeen) return [];
  const unit = values.unitId === undefined ? undefined : columns.at('unit', values.unitId, looking.on)?.name;
  const about = [unit, values.code].filter(Boolean).join(' · ');
  return [{ kind, id, name: values.title ?? values.name ?? '', about }];
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

type Named = 'position' | 'unit' | 'job' | 'grade';
type NamedAsk = Pick<FindAsk, 'text' | 'free' | 'unit'> & { most: number };

// Every word must stand somewhere in the name, the code or the unit's name.
const named = (asking: Asking, kind: Named, { text, free, unit: ofUnit, most }: NamedAsk): Fitting[] => {
  const { facts, sight, looking } = asking;
  const { columns, places } = facts;
  const day = dayNumber(looking.on);
  const words = fold(text).split(' ').filter(Boolean);
  const table = columns.table(kind);
  const units = columns.table('unit');
  const name = table.field(kind === 'position' ? 'title' : 'name');
  const code = table.field('code');
  const matching: Fitting[] = [];
  for (let slot = 0; slot < table.size; slot++) {
    if ((table.from[slot] as number) > day || day >= (table.until[slot] as number)) continue;
    const thing = table.thing[slot] as number;
    const unit = kind === 'position' ? units.slotOn(places.unit[places.on(thing, day)] ?? -1, day) : -1;
    if (ofUnit !== undefined && (unit < 0 || units.things.ids[units.thing[unit] as number] !== ofUnit))
      continue;
    const unitName = unit < 0 ? '' : (units.values(unit) as { name: string }).name;
    const called = name.words.texts[name.data[slot] as number] as string;
    const coded = code.words.texts[code.data[slot] as number] as string;
    const said = { name: folded(called), code: folded(coded), beside: folded(unitName) };
    const haystack = `${said.name} ${said.code} ${said.beside}`;
    if (!words.every((word) => haystack.includes(word))) continue;
    const id = table.things.ids[thing] as number;
    const about = [unitName, coded].filter(Boolean).join(' · ');
    matching.push({ kind, id, name: called, about, fit: fitOf(words, said) });
  }
  const isSeen = ({ id }: Found): boolean => {
    if (kind === 'unit') return sight.unit(id, day);
    return kind === 'position' ? sight.position(id, day) : sight.has(kind);
  };
  const isFree = ({ id }: Found): boolean =>
    kind === 'unit' ? !hiresNeedPosition(columns, id, looking.on) : takesMore(columns, id, looking.on);
  const inOrder = matching.sort((a, b) => a.fit - b.fit || a.name.length - b.name.length || a.id - b.id);
  const found = firstOf(inOrder, most, (one) => isSeen(one) && (free !== 'yes' || isFree(one)));
  if (kind !== 'position') return found;
  const ordered = free === 'first' ? freeFirst(inOrder, found, { most, isSeen, isFree }) : found;
  return ordered.map((one) => ({ ...one, ...positionSaid(asking, one.id) }));
};

const firstOf = <T>(all: readonly T[], most: number, is: (one: T) => boolean): T[] => {
  const found: T[] = [];
  for (const one of all) {
    if (found.length === most) break;
    if (is(one)) found.push(one);
  }
  return found;
};

// Free ones before those that are held, of whatever fit: a picker of a place is for what can be taken.
const freeFirst = (
  inOrder: readonly Fitting[],
  found: readonly Fitting[],
  {
    most,
    isSeen,
    isFree,
  }: { most: number; isSeen: (one: Found) => boolean; isFree: (one: Found) => boolean },
): Fitting[] => {
  const free = firstOf(inOrder, most, (one) => isSeen(one) && isFree(one));
  const ids = new Set(free.map(({ id }) => id));
  const held = found.filter(({ id }) => !ids.has(id)).slice(0, most - free.length);
  return [
    ...free.map((one) => ({ ...one, fit: 0 as const })),
    ...held.map((one) => ({ ...one, fit: 1 as const })),
  ];
};

// What tells positions of one title apart: their mark, and who leads them.
const positionSaid = (asking: Asking, id: number): Pick<Found, 'mark' | 'manager'> => {
  const { facts, sight, looking } = asking;
  const mark = markOf(facts.columns, id, looking.on);
  const [manager] = sight.has('person_name')
    ? managersOut(asking, managerChain(facts.columns, id, looking.on, 0).slice(0, 1))
    : [];
  return { ...(mark ? { mark } : {}), ...(manager?.name ? { manager: manager.name } : {}) };
};
