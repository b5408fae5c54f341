import type { Bound, ListName, Row, SectionName, Values } from '@gremium/contract';
import { distance } from 'fastest-levenshtein';
import { fold } from '../people/names';
import { isOn } from '../time/calendar';
import { problem } from '../time/problem';
import type { Register } from '../time/register';
import type { CellReading } from './read-cell';

// Kinds of things that cells name by their codes; people, and their employments, by the number of the person.
const THINGS = [
  'unit',
  'job',
  'location',
  'legal_entity',
  'position',
  'cost_centre',
  'grade',
  'own_field',
  'person',
  'employment',
] as const;

/** Whether cells can name things of a kind. */
export const isNamed = (kind: string): kind is (typeof THINGS)[number] =>
  (THINGS as readonly string[]).includes(kind);

/** What a cell can name: a kind of things, a list, or the choices of an own field. */
export type Choice = (typeof THINGS)[number] | ListName | `own:${number}`;

type Names = { code: string; texts: (string | null)[] };

const namesOf: { [S in SectionName]?: (values: Values<S>) => Names } = {
  unit: ({ code, name }) => ({ code, texts: [name] }),
  job: ({ code, name, title }) => ({ code, texts: [name, title] }),
  location: ({ code, name, city }) => ({ code, texts: [name, city] }),
  legal_entity: ({ code, name }) => ({ code, texts: [name] }),
  position: ({ code }) => ({ code, texts: [] }),
  cost_centre: ({ code, name }) => ({ code, texts: [name] }),
  grade: ({ code, name }) => ({ code, texts: [name] }),
  own_field: ({ code }) => ({ code, texts: [] }),
  person: ({ number }) => ({ code: number, texts: [] }),
  list_entry: ({ code, label }) => ({ code, texts: [label.en, label.de] }),
};

const sectionOf = (choice: Choice): SectionName =>
  (THINGS as readonly string[]).includes(choice) ? (choice as SectionName) : 'list_entry';

type Index = { byText: Map<string, Row[]>; shown: Map<string, string> };

const MOST_NEAR = 3;

/** A number without zeros at its beginning, in small letters. */
export const bareNumber = (number: string): string =>
  number
    .trim()
    .replace(/^0+(?=.)/, '')
    .toLowerCase();

/**
 * Finds what cells name by code, name or label in either language, accents and capitals aside, on a day. Things the viewer
 * may not see are not found. Remembers what it found: files say the same things over and over.
 */
export class LookUps {
  private readonly indexes = new Map<Choice, Index>();
  private readonly known = new Map<string, CellReading<number>>();
  private numbers: Map<string, { number: string; thing: number }[]> | undefined;

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
    if (choice === 'person') return this.searchPerson(text);
    if (choice === 'employment') return this.searchEmployment(text, on);
    const section = sectionOf(choice);
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
    // an entry of a list that is not there may be added to it
    const list = section === 'list_entry' && !choice.startsWith('own') ? { list: choice } : {};
    return { problem: problem('value_unknown', { text, ...list }), offers: near(fold(text), shown) };
  }

  // Numbers with and without leading zeros are alike; only one that is just so is taken without asking.
  private searchPerson(text: string): CellReading<number> {
    this.numbers ??= this.numbered();
    const alike = this.numbers.get(bareNumber(text)) ?? [];
    const [only] = alike;
    if (alike.length === 1 && only?.number === text) return { value: only.thing };
    const meant = text.startsWith('0') ? alike.find(({ number }) => number === text) : undefined;
    if (meant) return { value: meant.thing };
    const found = alike.length > 1 ? 'value_ambiguous' : 'value_unknown';
    return { problem: problem(found, { text }), offers: alike.map(({ number }) => number) };
  }

  private numbered(): Map<string, { number: string; thing: number }[]> {
    const found = new Map<string, { number: string; thing: number }[]>();
    for (const { thing, values } of this.register.all('person')) {
      if (!this.sees('person_name', thing)) continue;
      const key = bareNumber(values.number);
      const known = found.get(key) ?? [];
      if (!known.some((one) => one.thing === thing)) known.push({ number: values.number, thing });
      found.set(key, known);
    }
    return found;
  }

  // The employment of the day; the marked one where several run.
  private searchEmployment(text: string, on: Bound): CellReading<number> {
    const person = this.searchPerson(text);
    if ('problem' in person) return person;
    const rows = this.register
      .referrers('employment', 'personId', person.value)
      .filter((row) => isOn(row, on));
    const main = rows.find(({ values }) => values.markedMain) ?? (rows.length === 1 ? rows[0] : undefined);
    if (main) return { value: main.thing };
    const code = rows.length > 1 ? 'value_ambiguous' : 'value_not_there';
    return { problem: problem(code, { text, day: on }), offers: [] };
  }

  private index(choice: Choice): Index {
    const made = this.indexes.get(choice);
    if (made) return made;
    const index: Index = { byText: new Map(), shown: new Map() };
    const section = sectionOf(choice);
    for (const row of this.register.all(section)) {
      if (section === 'list_entry' && !isAmong(row as Row<'list_entry'>, choice)) continue;
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

// Choices of an own field are called alike in different fields: each is looked for among its own.
const isAmong = ({ values: { list, ownFieldId } }: Row<'list_entry'>, choice: Choice): boolean =>
  choice.startsWith('own:') ? choice === `own:${ownFieldId}` : choice === list;

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
