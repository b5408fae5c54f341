import type { Bound, ListName, Row, SectionName, Values } from '@gremium/contract';
import { distance } from 'fastest-levenshtein';
import { fold } from '../people/names';
import { isOn } from '../time/calendar';
import { problem } from '../time/problem';
import type { Register } from '../time/register';
import type { CellReading } from './read-cell';

/** What a cell can name: a kind of things, or a list. */
export type Choice = 'unit' | 'job' | 'location' | 'legal_entity' | 'position' | ListName;

type Names = { code: string; texts: (string | null)[] };

const namesOf: { [S in SectionName]?: (values: Values<S>) => Names } = {
  unit: ({ code, name }) => ({ code, texts: [name] }),
  job: ({ code, name, title }) => ({ code, texts: [name, title] }),
  location: ({ code, name, city }) => ({ code, texts: [name, city] }),
  legal_entity: ({ code, name }) => ({ code, texts: [name] }),
  position: ({ code }) => ({ code, texts: [] }),
  list_entry: ({ code, label }) => ({ code, texts: [label.en, label.de] }),
};

const THINGS = ['unit', 'job', 'location', 'legal_entity', 'position'] as const;
const sectionOf = (choice: Choice): SectionName =>
  (THINGS as readonly string[]).includes(choice) ? (choice as SectionName) : 'list_entry';

type Index = { byText: Map<string, Row[]>; shown: Map<string, string> };

const MOST_NEAR = 3;

/**
 * Finds what cells name by code, name or label in either language, accents and capitals aside, on a day. Things the viewer
 * may not see are not found. Remembers what it found: files say the same things over and over.
 */
export class LookUps {
  private readonly indexes = new Map<Choice, Index>();
  private readonly known = new Map<string, CellReading<number>>();

  constructor(
    private readonly register: Register,
    private readonly sees: (section: SectionName, thing: number) => boolean,
  ) {}

  find(choice: Choice, text: string, on: Bound): CellReading<number> {
    const key = `${choice} ${on} ${text}`;
    const known = this.known.get(key);
    if (known) return known;
    const found = this.search(choice, text, on);
    this.known.set(key, found);
    return found;
  }

  /** The code of a thing on a day, as a file would name it. */
  codeOf(choice: Choice, thing: number, on: Bound): string {
    const values = this.register.at(sectionOf(choice), thing, on) as { code?: string } | undefined;
    return values?.code ?? '';
  }

  private search(choice: Choice, text: string, on: Bound): CellReading<number> {
    const { byText, shown } = this.index(choice);
    const rows = byText.get(fold(text)) ?? [];
    const here = [...new Set(rows.filter((row) => isOn(row, on)).map(({ thing }) => thing))];
    if (here.length === 1) return { value: here[0] as number };
    if (here.length > 1)
      return {
        problem: problem('value_ambiguous', { text }),
        offers: here.map((thing) => this.codeOf(choice, thing, on)),
      };
    if (rows.length > 0) return { problem: problem('value_not_there', { text, day: on }), offers: [] };
    return { problem: problem('value_unknown', { text }), offers: near(fold(text), shown) };
  }

  private index(choice: Choice): Index {
    const made = this.indexes.get(choice);
    if (made) return made;
    const index: Index = { byText: new Map(), shown: new Map() };
    const section = sectionOf(choice);
    for (const row of this.register.all(section)) {
      if (section === 'list_entry' && (row as Row<'list_entry'>).values.list !== choice) continue;
      if (!this.sees(section, row.thing)) continue;
      const { code, texts } = (namesOf[section] as (values: unknown) => Names)(row.values);
      for (const text of [code, ...texts]) {
        if (!text) continue;
        const folded = fold(text);
        const rows = index.byText.get(folded);
        if (rows) rows.push(row);
        else index.byText.set(folded, [row]);
        if (choice !== 'position') index.shown.set(folded, text);
      }
    }
    this.indexes.set(choice, index);
    return index;
  }
}

// What was probably meant: names that differ in few letters, nearest first.
const near = (text: string, shown: ReadonlyMap<string, string>): string[] => {
  const most = Math.max(1, Math.floor(text.length / 4));
  return [...shown]
    .filter(([folded]) => Math.abs(folded.length - text.length) <= most)
    .map(([folded, name]) => ({ name, by: distance(text, folded) }))
    .filter(({ by }) => by <= most)
    .sort((a, b) => a.by - b.by || (a.name < b.name ? -1 : 1))
    .filter(({ by }, _, all) => by === all[0]?.by)
    .slice(0, MOST_NEAR)
    .map(({ name }) => name);
};
