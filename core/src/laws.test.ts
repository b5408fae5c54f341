// The laws of every section, worked by hand on one person: 2020 to 2029, one name, one contact.
import { beforeEach, describe, expect, test } from '@jest/globals';
import type { Change, Row } from '@gremium/contract';
import { laws } from './laws';
import { day } from './time/calendar';
import { RowRegister } from './time/register';

const PERSON = 1;
const CONTACT = 10;

const values = {
  person: { number: '1', birthDate: null, gender: null, nationality: null, language: null },
  person_name: { given: 'Nova', family: 'Sand' },
  contact: { personId: PERSON, kind: 'phone', use: 'work', value: '+358 1', primary: true },
};
type Section = keyof typeof values;

let ids = 100;
const row = (section: Section, from: number, until: number, more: object = {}): Row =>
  ({
    id: ids,
    lineage: ids++,
    section,
    thing: section === 'contact' ? CONTACT : PERSON,
    from: day(`${from}-01-01`),
    until: day(`${until}-01-01`),
    values: { ...values[section], ...more },
    entry: 2,
  }) as unknown as Row;

let register: RowRegister;
let there: Record<Section, Row>;
beforeEach(() => {
  there = {
    person: row('person', 2020, 2030),
    person_name: row('person_name', 2020, 2030),
    contact: row('contact', 2020, 2030),
  };
  register = new RowRegister(Object.values(there));
});

/** What is broken after a change: code, field, first day, and the rows at fault. */
const broken = (change: Partial<Change>) => {
  const whole = { recorded: [], superseded: [], ...change };
  register.apply(whole);
  return laws(register, whole).map(({ problem, rows }) => [
    problem.code,
    problem.field ?? null,
    problem.params['day'] ?? problem.params['from'],
    rows.map(({ id }) => id),
  ]);
};

describe('one version a day', () => {
  test('two names that share a year are refused, with the days of the other', () => {
    const other = row('person_name', 2025, 2030);
    expect(broken({ recorded: [other] })).toEqual([
      ['overlap', null, '2020-01-01', [other.id, there.person_name.id]],
    ]);
  });

  test('one that begins on the day on which the other ends is not', () => {
    const [first, second] = [row('person_name', 2020, 2025), row('person_name', 2025, 2030)];
    expect(broken({ recorded: [first, second], superseded: [there.person_name] })).toEqual([]);
  });

  test('the same days of another section or thing are not', () => {
    const [other, contact] = [row('person', 2010, 2020), row('contact', 2021, 2022)];
    const elsewhere = { ...contact, thing: 11 } as Row;
    expect(broken({ recorded: [other, elsewhere] })).toEqual([]);
  });
});

describe('what refers to something', () => {
  test('before that exists is refused at its field, from the first day without it', () => {
    const early = { ...row('contact', 2018, 2022), thing: 11 } as Row;
    expect(broken({ recorded: [early] })).toEqual([
      ['reference_missing', 'personId', '2018-01-01', [early.id]],
    ]);
  });

  test('that never was, too', () => {
    const astray = { ...row('contact', 2021, 2022, { personId: 77 }), thing: 11 } as Row;
    expect(broken({ recorded: [astray] })).toEqual([
      ['reference_missing', 'personId', '2021-01-01', [astray.id]],
    ]);
  });

  test('covered by two versions of it that meet is not', () => {
    const halves = [row('person', 2020, 2024), row('person', 2024, 2030)];
    expect(broken({ recorded: halves, superseded: [there.person] })).toEqual([]);
  });

  test('a hole between two versions is found, by whoever lives through it', () => {
    const halves = [row('person', 2020, 2024), row('person', 2025, 2030)];
    expect(broken({ recorded: halves, superseded: [there.person] })).toEqual([
      ['reference_missing', 'personId', '2024-01-01', [there.contact.id]],
      ['reference_missing', null, '2024-01-01', [there.person_name.id]],
    ]);
  });
});

describe('sections of a thing', () => {
  test('that outlast it are refused, without a field', () => {
    const long = row('person_name', 2020, 2031);
    expect(broken({ recorded: [long], superseded: [there.person_name] })).toEqual([
      ['reference_missing', null, '2030-01-01', [long.id]],
    ]);
  });

  test('go with it: nothing is broken where all of it is taken away at once', () => {
    expect(broken({ superseded: Object.values(there) })).toEqual([]);
  });
});
