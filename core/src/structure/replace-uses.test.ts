// One thing named in place of another, worked by hand: three versions of a job, a location that names nothing, lists of ids.
import { beforeEach, describe, expect, test } from '@jest/globals';
import type { Bound, Row } from '@gremium/contract';
import { laws } from '../laws';
import { day } from '../time/calendar';
import { Draft } from '../time/draft';
import { RowRegister } from '../time/register';
import { codeFrom } from './code-from';
import { type Use, replaceUses } from './replace-uses';

const [OLD, NEW, JOB] = [1, 2, 10];
const TODAY = day('2026-11-23');

let ids = 100;
const entry = (thing: number, from: Bound = '-infinity', until: Bound = 'infinity'): Row =>
  ({
    id: ids,
    lineage: ids++,
    section: 'list_entry',
    thing,
    from,
    until,
    values: {
      list: 'job_family',
      code: `F${thing}`,
      label: { en: 'F', de: 'F' },
      flags: {},
      ownFieldId: null,
      meaning: null,
      place: null,
    },
    entry: 1,
  }) as unknown as Row;
const job = (from: Bound, until: Bound, familyId: number | null, name = 'Cook'): Row =>
  ({
    id: ids,
    lineage: ids++,
    section: 'job',
    thing: JOB,
    from,
    until,
    values: { code: 'COOK', name, familyId },
    entry: 1,
  }) as unknown as Row;

let register: RowRegister;
let jobs: Row[];
beforeEach(() => {
  // a past with the old family, a present that goes on, a plan
  jobs = [
    job(day('2020-01-01'), day('2022-01-01'), OLD),
    job(day('2022-01-01'), day('2027-04-01'), OLD, 'Head cook'),
    job(day('2027-04-01'), 'infinity', OLD, 'Chef'),
  ];
  register = new RowRegister([entry(OLD), entry(NEW), ...jobs]);
});

const replaced = (day: Row['from'] | null) => {
  let next = 1000;
  const draft = new Draft(register, Object.assign(() => next++, { mark: () => 0 }) as never, 2);
  const uses: Use[] = jobs.map((row) => ({ row, field: 'familyId' }));
  const kind = 'list_entry' as const;
  const moved = replaceUses(draft, uses, { kind, from: OLD, to: NEW, day: day as never, today: TODAY });
  return { moved, change: draft.change };
};
const families = () =>
  (register.rows('job', JOB) as unknown as Row[])
    .map(({ from, until, values }) => [from, until, (values as { familyId: number }).familyId])
    .sort();

describe('uses that move', () => {
  test('on every day: the past too; the one replaced can be chosen today for the last time', () => {
    expect(replaced(null).moved).toBe(3);
    expect(families()).toEqual([
      ['2020-01-01', '2022-01-01', NEW],
      ['2022-01-01', '2027-04-01', NEW],
      ['2027-04-01', 'infinity', NEW],
    ]);
    expect(register.rows('list_entry', OLD).map(({ until }) => until)).toEqual(['2026-11-24']);
  });

  test('from a day on: what is over stays, what runs is cut there, what is planned follows', () => {
    expect(replaced(day('2027-01-01')).moved).toBe(2);
    expect(families()).toEqual([
      ['2020-01-01', '2022-01-01', OLD],
      ['2022-01-01', '2027-01-01', OLD],
      ['2027-01-01', '2027-04-01', NEW],
      ['2027-04-01', 'infinity', NEW],
    ]);
    expect(register.rows('list_entry', OLD).map(({ until }) => until)).toEqual(['2027-01-01']);
  });

  test('a day on which a version begins cuts none; one after all of them moves none', () => {
    expect(replaced(day('2027-04-01')).moved).toBe(1);
    expect(families().map(([, , family]) => family)).toEqual([OLD, OLD, NEW]);
  });

  test('what came of it breaks no law, and taken back it is as before', () => {
    const before = families();
    const { change } = replaced(day('2027-01-01'));
    expect(laws(register, change)).toEqual([]);
    register.revert(change);
    expect(families()).toEqual(before);
  });
});

describe('an entry that ends', () => {
  const ended = (until: Bound) => {
    const [old] = register.rows('list_entry', OLD) as unknown as Row[];
    const change = { recorded: [entry(OLD, '-infinity', until)], superseded: [old as Row] };
    register.apply(change);
    return laws(register, change).map(({ problem }) => [problem.code, problem.field, problem.params['day']]);
  };

  test('after every version that names it has begun: what was chosen stays', () => {
    expect(ended(day('2027-04-02'))).toEqual([]);
  });

  test('before a plan that only goes on naming it: it was chosen before', () => {
    // the version before it says the same: nothing new is chosen
    expect(ended(day('2026-11-24'))).toEqual([]);
  });

  test('before it is chosen: said, with the day', () => {
    const [first, ...others] = jobs as [Row, ...Row[]];
    register.apply({ recorded: [], superseded: [first, ...others] });
    register.apply({
      recorded: [job(day('2020-01-01'), day('2027-04-01'), null), others[1] as Row],
      superseded: [],
    });
    expect(ended(day('2026-11-24'))).toEqual([['still_named', undefined, '2027-04-01']]);
  });
});

describe('a code made of a label', () => {
  test.each([
    ['End of season', 'END-OF-SEASON'],
    ['Größe & Maß', 'GROSSE-MASS'],
    ['  Ærø / Øst ', 'AERO-OST'],
    ['!!', ''],
    ['x'.repeat(60), 'X'.repeat(40)],
  ])('%s: %s', (label, code) => {
    expect(codeFrom(label)).toBe(code);
  });
});
