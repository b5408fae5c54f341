// Whom rows of a file are about, and which of them are about the same.
import type { Bound, ImportField, Problem } from '@gremium/contract';
import { isBefore } from '../time/calendar';
import { problem, thing } from '../time/problem';
import type { Register } from '../time/register';
import { fold, sortName, spokenName } from '../people/names';
import type { Importing, Planned } from './import-people';
import { bareNumber } from './look-ups';

/** Emails are compared without regard to capitals. */
export const emailKey = (text: string): string => text.trim().toLowerCase();

/** Who on the register has a number, an email or a name. Needs the people with their names and contacts. */
export class People {
  readonly byNumber = new Map<string, number>();
  private readonly byBare = new Map<string, Set<number>>();
  private readonly byEmail = new Map<string, Set<number>>();
  private readonly byName = new Map<string, Set<number>>();

  /** By names only where a file `names` anybody: folding those of everybody takes its time. */
  constructor(
    private readonly register: Register,
    day: Bound,
    names = true,
  ) {
    for (const row of register.all('person')) {
      this.byNumber.set(row.values.number, row.thing);
      note(this.byBare, bareNumber(row.values.number), row.thing);
    }
    for (const { until, values } of register.all('contact'))
      if (values.kind === 'email' && isBefore(day, until))
        note(this.byEmail, emailKey(values.value), values.personId);
    if (!names) return;
    for (const { thing, values } of register.all('person_name'))
      for (const name of [spokenName(values), sortName(values)]) note(this.byName, fold(name), thing);
  }

  withEmail(email: string): number[] {
    return [...(this.byEmail.get(emailKey(email)) ?? [])];
  }

  /** Whose number is the same but for zeros at its beginning, which spreadsheets take away. */
  withNumberLike(number: string): number[] {
    return [...(this.byBare.get(bareNumber(number)) ?? [])];
  }

  withName(name: string): number[] {
    return [...(this.byName.get(fold(name)) ?? [])];
  }

  /** The person's number, or nothing if there is no such person. */
  numberOf(person: number): string {
    return this.register.rows('person', person)[0]?.values.number ?? '';
  }

  nameOn(person: number, on: Bound): string {
    const values =
      this.register.at('person_name', person, on) ?? this.register.rows('person_name', person)[0]?.values;
    return values ? spokenName(values) : '';
  }
}

const note = (index: Map<string, Set<number>>, key: string, person: number): void => {
  const found = index.get(key);
  if (found) found.add(person);
  else index.set(key, new Set([person]));
};

/** Finds whom a row is about: by our number, else by email; nobody is recognised by name alone. */
export const recognise = (row: Planned, people: People, importing: Importing): void => {
  const { number, email, name } = row.cells;
  const refuse = (field: ImportField, found: Problem, offers: string[] = []) =>
    row.faults.push({ field, problem: found, offers });
  const byEmail = email === undefined ? [] : people.withEmail(email);
  if (number !== undefined) {
    const id = people.byNumber.get(number);
    const seen = people.withNumberLike(number).filter((one) => importing.sees('person_name', one));
    // a number typed with its zeros is meant; without them somebody else's may be
    if (id !== undefined && seen.length > 1 && !number.startsWith('0')) {
      const numbers = seen.map((one) => people.numberOf(one)).sort();
      refuse('number', problem('number_zeros', { numbers: numbers.join(', ') }), numbers);
      return;
    }
    if (id === undefined && (seen.length > 0 || !importing.newNumbers)) {
      const called = [name, [row.cells.given, row.cells.family].filter(Boolean).join(' ')];
      const alike = [...seen, ...byEmail, ...called.flatMap((text) => (text ? people.withName(text) : []))];
      const numbers = alike
        .filter((one) => importing.sees('person_name', one))
        .map((one) => people.numberOf(one));
      refuse('number', problem('person_unknown', { number }), [...new Set(numbers)]);
      return;
    }
    row.personId = id ?? null;
    if (byEmail.some((one) => one !== id)) refuse('email', problem('email_shared', { email: email ?? '' }));
  } else if (byEmail.length > 1) refuse('email', problem('email_shared', { email: email ?? '' }));
  else row.personId = byEmail[0] ?? null;
  if (row.personId === null) {
    if (number === undefined) refuseAlike(row, people, importing);
    return;
  }
  if (!importing.sees('person_name', row.personId)) {
    row.personId = null;
    // a number that is somebody's whom the viewer may not see is answered as one that is nobody's
    if (number === undefined) refuse('email', problem('record_hidden', { kind: 'person' }));
    else if (importing.newNumbers) refuse('number', problem('number_taken', { number }));
    else refuse('number', problem('person_unknown', { number }));
    return;
  }
  const known = people.nameOn(row.personId, importing.day);
  if (name !== undefined && !people.withName(name).includes(row.personId))
    refuse('name', problem('name_differs', { name: known }), [known]);
};

// Somebody of the same name and birth date: probably the same person, without a key in this file.
const refuseAlike = (row: Planned, people: People, importing: Importing): void => {
  const { birthDate } = row.said;
  if (!birthDate) return;
  const name = [row.cells.given, row.cells.family].filter(Boolean).join(' ');
  const alike = people
    .withName(name)
    .find(
      (id) =>
        importing.sees('person_name', id) &&
        importing.register.rows('person', id).some(({ values }) => values.birthDate === birthDate),
    );
  if (alike === undefined) return;
  const params = { person: thing('person', alike) };
  row.faults.push({
    field: 'number',
    problem: problem('person_alike', params),
    offers: [people.numberOf(alike)],
  });
};

/** The same number, email or person twice in one file: all such rows are refused, also those planned before. */
export const refuseTwins = (planned: readonly Planned[], seen: Map<string, Planned[]>): void => {
  const twins = new Set<string>();
  for (const row of planned)
    for (const key of keysOf(row)) {
      const same = seen.get(key);
      if (same) twins.add(key);
      if (same) same.push(row);
      else seen.set(key, [row]);
    }
  for (const key of twins) {
    const rows = seen.get(key) as Planned[];
    const field = key.startsWith('email') ? 'email' : 'number';
    const code = field === 'email' ? 'email_twice' : 'person_twice';
    for (const row of rows) {
      const others = rows.filter((other) => other !== row).map((other) => other.row);
      const found = problem(code, { rows: others.join(', ') });
      row.faults = row.faults.filter((one) => one.problem.code !== code);
      if (!row.faults.some((one) => TWIN.has(one.problem.code)))
        row.faults.push({ field, problem: found, offers: [] });
      row.change = null;
      row.warnings = [];
    }
  }
};

const TWIN = new Set(['email_twice', 'person_twice']);

const keysOf = ({ cells: { email, number }, personId }: Planned): string[] => [
  ...(email ? [`email ${emailKey(email)}`] : []),
  ...(number ? [`number ${number}`] : []),
  ...(personId === null ? [] : [`person ${personId}`]),
];
