// Measures over columns against the same definitions written plainly over rows (core/test), and by hand.
import { describe, expect, test } from '@jest/globals';
import type { Day, DimensionName, Row } from '@gremium/contract';
import { makeHistory } from '../../../demo/make';
import { randomHistory } from '../../../demo/random-history';
import { byDimension, flowsOf, headcountAtClose, perPerson, turnover } from '../../test/flows-by-rows';
import { type Dimension, allPresences } from '../../test/presence-by-rows';
import { addDays, addMonths, day, endOfMonth, startOfMonth } from '../time/calendar';
import { Columns } from '../time/columns';
import type { Register } from '../time/register';
import { isCounted } from '../../test/roll-up-by-rows';
import { type CrossAsk, crossTable } from './cross-table';
import { Facts } from './facts';
import { monthFlows, why } from './why';

const DIMENSIONS: Dimension[] = [
  'whole',
  'unit',
  'division',
  'location',
  'legalEntity',
  'workerType',
  'jobFamily',
];

const factsOf = (entries: { change: Parameters<Columns['apply']>[0] }[]): Facts => {
  const facts = new Facts(new Columns());
  for (const { change } of entries) facts.columns.apply(change);
  return facts;
};

const months = (from: Day, until: Day): Day[] => {
  const all: Day[] = [];
  for (let month = startOfMonth(from); month <= until; month = addMonths(month, 1)) all.push(month);
  return all;
};

/** Closing, joiners, moves and leavers by month and value, counted over rows. */
const countedByRows = (register: Register, by: Dimension, from: Day, until: Day): string[] => {
  const presences = allPresences(register);
  const flows = perPerson(presences).flatMap((own) => flowsOf(register, own, byDimension(by)));
  return months(from, until).flatMap((month) => {
    const end = endOfMonth(month);
    const closing = headcountAtClose(register, presences, end, byDimension(by));
    const here = flows.filter(({ on }) => month <= on && on <= end);
    return [...new Set([...closing.keys(), ...here.map(({ key }) => key)])].map((key) => {
      const count = (kind: string) => here.filter((flow) => flow.kind === kind && flow.key === key).length;
      const counts = [count('joiner'), count('in'), count('leaver'), count('out'), closing.get(key) ?? 0];
      return `${month} ${key}: ${counts.join(' ')}`;
    });
  });
};

const countedByColumns = (facts: Facts, by: DimensionName, from: Day, until: Day): string[] =>
  monthFlows(facts, { by, from, until, part: 'all' }).flatMap(({ month, values }) =>
    values
      .map(({ key, ...counts }) => ({
        key,
        counts: [counts.joiners, counts.in, counts.leavers, counts.out, counts.closing],
      }))
      .filter(({ counts }) => counts.some((count) => count !== 0))
      .map(({ key, counts }) => `${month}-01 ${key}: ${counts.join(' ')}`),
  );

const ask = (more: Partial<CrossAsk>): CrossAsk => ({
  measure: 'turnover',
  by: 'division',
  from: day('2026-01-01'),
  until: day('2026-10-31'),
  narrowing: { dimensions: {} },
  part: 'all',
  on: day('2026-11-23'),
  today: day('2026-11-23'),
  dataFrom: day('2016-11-01'),
  ...more,
});

describe('over generated histories', () => {
  test.each([1, 2, 3, 4, 5, 6])(
    'history %i: closes, joiners, moves and leavers are those counted over rows, whenever it is asked',
    (seed) => {
      const { history } = randomHistory(seed, 140);
      const facts = new Facts(new Columns());
      // asked in the midst, so that what is kept up by changes is tested, not only what is worked out at once
      history.entries.forEach(({ change }, i) => {
        facts.columns.apply(change);
        if (i % 10 === 0)
          monthFlows(facts, { by: 'unit', from: day('2020-01-01'), until: day('2020-03-01'), part: 'all' });
      });
      const span = [day('2019-08-01'), day('2023-12-31')] as const;
      for (const by of DIMENSIONS)
        expect([by, ...countedByColumns(facts, by, ...span)].sort()).toEqual(
          [by, ...countedByRows(history.register, by, ...span)].sort(),
        );
    },
  );
});

describe('over the demo', () => {
  const history = makeHistory(day('2026-11-23'));
  const facts = factsOf(history.entries);
  const presences = allPresences(history.register);

  test('the law of flows holds for every month and value of every dimension', () => {
    for (const by of [...DIMENSIONS, 'country', 'job'] as DimensionName[])
      for (const { month, values } of monthFlows(facts, {
        by,
        from: day('2016-11-01'),
        until: day('2027-10-31'),
        part: 'all',
      }))
        for (const { key, opening, joiners, in: came, leavers, out, closing } of values)
          expect([by, month, key, opening + joiners + came - leavers - out]).toEqual([
            by,
            month,
            key,
            closing,
          ]);
  });

  test('rolling turnover is leavers of twelve months by the mean of their closes, in all and by class', () => {
    for (const until of ['2018-02-28', '2024-12-31', '2026-10-31'].map(day))
      for (const only of [undefined, 'by_employee', 'retirement'] as const) {
        const narrowing = { dimensions: {}, ...(only ? { classes: [only] } : {}) };
        const table = crossTable(facts, ask({ by: 'division', from: until, until, narrowing }));
        const whole = turnover(history.register, presences, { on: until, ...(only ? { only } : {}) });
        expect(table.total.values).toEqual([whole.rate]);
        for (const { key, values } of table.rows) {
          const of = {
            on: until,
            by: byDimension('division'),
            key: key as number,
            ...(only ? { only } : {}),
          };
          expect([key, ...values]).toEqual([key, turnover(history.register, presences, of).rate]);
        }
      }
  });

  test('chips count the numerator under all other narrowings but their own', () => {
    const people = (dimensions: CrossAsk['narrowing']['dimensions']) =>
      crossTable(
        facts,
        ask({ measure: 'headcount', by: 'whole', from: day('2026-10-01'), narrowing: { dimensions } }),
      );
    const chips = (table: ReturnType<typeof people>, name: DimensionName) =>
      table.chips.find(({ dimension }) => dimension === name)!.values;
    const all = people({});
    const countries = chips(all, 'country');
    expect(countries.length).toBe(6);
    for (const { key, count } of countries) {
      const narrowed = people({ country: [key] });
      expect(narrowed.total.values).toEqual([count]);
      expect(chips(narrowed, 'country')).toEqual(countries);
      const [type] = chips(narrowed, 'workerType');
      expect(people({ country: [key], workerType: [type!.key] }).total.values).toEqual([type!.count]);
    }
    expect(countries.reduce((sum, { count }) => sum + count, 0)).toBe(all.total.values[0]);
  });

  test('FTE at the close adds up exactly to that of the placements then', () => {
    const table = crossTable(facts, ask({ measure: 'fte', by: 'unit', from: day('2026-10-01') }));
    const close = day('2026-10-31');
    const endsThen = ({ values: { employmentId } }: Row<'placement'>) => {
      const last = history.register
        .rows('employment', employmentId)
        .map(({ until }) => until)
        .sort()
        .at(-1);
      const isContinued = history.register.referrers('employment', 'continuesId', employmentId).length > 0;
      return last === addDays(close, 1) && !isContinued;
    };
    let sum = 0;
    for (const row of history.register.allOn('placement', close))
      if (!endsThen(row) && isCounted(history.register, row.values))
        sum += (row.values.hours - row.values.lentHours) / row.values.fullTime;
    expect(table.total.values[0]).toBe(Math.round(sum * 100));
  });

  test('a cell opened lists its inputs and exactly the people it counts', () => {
    const table = crossTable(facts, ask({ by: 'division', from: day('2026-10-01') }));
    const cell = table.rows.find(({ values }) => (values[0] ?? 0) > 0.05)!;
    const found = why(facts, ask({ by: 'division' }), { key: cell.key, month: '2026-10' });
    const leavers = perPerson(presences)
      .flatMap((own) => flowsOf(history.register, own, byDimension('division')))
      .filter(
        ({ kind, key, on }) =>
          kind === 'leaver' && key === cell.key && on >= '2025-11-01' && on <= '2026-10-31',
      );
    expect(found.people.map(({ personId }) => personId).sort()).toEqual(
      leavers.map(({ personId }) => personId).sort(),
    );
    expect(found.people.length).toBeGreaterThan(5);
    expect(found.value).toBe(cell.values[0]);
    const closes = found.months.map(({ close }) => close as number);
    expect(closes.length).toBe(12);
    expect(found.value).toBe(leavers.length / (closes.reduce((a, b) => a + b, 0) / 12));
  });
});

// A small organisation by hand. North is always there; South exists from 1 May 2026; East stands empty.
describe('by hand', () => {
  let last = 100;
  const row = <S extends Row['section']>(
    section: S,
    thing: number,
    from: string,
    until: string,
    values: object,
  ) => {
    const id = ++last;
    return { id, lineage: id, section, thing, from, until, values, entry: 1 } as unknown as Row;
  };
  const always = ['-infinity', 'infinity'] as const;
  const kind = (thing: number, list: string, flags: object) =>
    row('list_entry', thing, ...always, { list, code: String(thing), label: { en: 'x', de: 'x' }, flags });
  const unit = (thing: number, from: string, kindId: number, parentId: number | null) => {
    const nothing = {
      headPositionId: null,
      locationId: null,
      costCentreId: null,
      legalEntityId: null,
      hiresNeedPosition: null,
    };
    return row('unit', thing, from, 'infinity', {
      code: `U${thing}`,
      name: `U${thing}`,
      kindId,
      parentId,
      ...nothing,
    });
  };
  const position = (thing: number, unitId: number) =>
    row('position', thing, ...always, {
      code: `P${thing}`,
      title: 'Hand',
      jobId: 90,
      unitId,
      locationId: null,
      standing: 'in_force',
      sources: {},
    });
  const works = (person: number, positionId: number, from: string, until: string) => [
    row('employment', person + 10, from, until, {
      personId: person,
      legalEntityId: 91,
      workerTypeId: 1,
      markedMain: false,
      continuesId: null,
      endReasonId: null,
    }),
    row('placement', person + 20, from, until, {
      employmentId: person + 10,
      positionId,
      kind: 'primary',
      hours: 3750,
      fullTime: 3750,
      lentHours: 0,
      awayHours: 0,
    }),
    row('person', person, ...always, { number: String(person) }),
  ];
  const recorded = [
    kind(1, 'worker_type', {}),
    kind(2, 'unit_kind', { division: true }),
    kind(3, 'unit_kind', {}),
    unit(4, '-infinity', 3, null),
    unit(5, '-infinity', 2, 4),
    unit(6, '2026-05-01', 2, 4),
    unit(7, '-infinity', 2, 4),
    position(51, 5),
    position(61, 6),
    position(71, 7),
    ...works(1000, 51, '2024-01-01', 'infinity'),
    ...works(1100, 51, '2024-01-01', '2026-03-16'), // last day 15 March 2026
    ...works(1200, 61, '2026-05-01', 'infinity'),
    ...works(1300, 61, '2026-05-01', '2026-09-01'), // last day 31 August 2026
    ...works(1400, 71, '2023-01-01', '2025-09-11'), // the last one of East left on 10 September 2025
  ];
  const facts = factsOf([{ change: { recorded, superseded: [] } }]);
  const table = (more: Partial<CrossAsk>) =>
    crossTable(
      facts,
      ask({ from: day('2026-10-01'), until: day('2026-10-31'), dataFrom: day('2025-01-01'), ...more }),
    );
  const rowOf = (found: ReturnType<typeof table>, key: number) => found.rows.find((one) => one.key === key)!;

  test('a rate, zero, no rate, and the mean of the months that a value existed', () => {
    const october = table({});
    // North: 1 leaver; closes Nov–Feb 2 each, Mar–Oct 1 each: mean 16 / 12
    expect(rowOf(october, 5)).toMatchObject({ values: [1 / (16 / 12)] });
    expect(rowOf(october, 5).closes).toBeUndefined();
    // South: 1 leaver, closes May–Jul 2, Aug–Oct 1: mean 9 / 6, "6 of 12 months"
    expect(rowOf(october, 6)).toMatchObject({ values: [1 / (9 / 6)], closes: [6] });
    // East: nobody there in any of the twelve months, nobody left: not listed
    expect(rowOf(october, 7)).toBeUndefined();
    // a year later only the leaver is left of East: somebody left, but nobody was there at any of the closes
    const later = table({ from: day('2025-09-01'), until: day('2025-10-31'), dataFrom: day('2024-01-01') });
    // October 2024 to September 2025: 1 leaver, eleven closes of 1; then November 2024 to October 2025: ten closes
    expect(rowOf(later, 7).values).toEqual([1 / (11 / 12), 1 / (10 / 12)]);
    const last = table({ from: day('2026-08-01'), until: day('2026-08-31'), dataFrom: day('2024-01-01') });
    expect(rowOf(last, 7)).toMatchObject({ values: [null] });
    const quiet = table({ from: day('2025-12-01'), until: day('2025-12-31'), dataFrom: day('2024-01-01') });
    expect(rowOf(quiet, 5)).toMatchObject({ values: [0] });
  });

  test('a month not over is counted so far; what begins before the data is blank; what is planned is marked', () => {
    const found = table({
      measure: 'headcount',
      from: day('2024-12-01'),
      until: day('2026-11-30'),
      on: day('2026-11-23'),
    });
    expect(found.months.at(-1)).toEqual({
      month: '2026-11',
      end: '2026-11-23',
      isFuture: false,
      isCut: true,
      isKnown: true,
    });
    expect(found.months[0]).toMatchObject({ month: '2024-12', isKnown: false });
    expect(rowOf(found, 5).values[0]).toBeNull();
    const ahead = table({
      measure: 'leavers',
      from: day('2026-08-01'),
      until: day('2026-12-31'),
      on: day('2026-12-31'),
      today: day('2026-08-20'),
    });
    expect(ahead.months.map(({ isFuture }) => isFuture)).toEqual([true, true, true, true, true]);
    expect(rowOf(ahead, 6).values).toEqual([1, 0, 0, 0, 0]);
    const rates = table({ from: day('2025-11-01'), until: day('2025-12-31') });
    // twelve months lie inside from December 2025 on
    expect(rates.months.map(({ isKnown }) => isKnown)).toEqual([false, true]);
  });

  test('whoever has the day of a close as last day is gone at it, and still here on it', () => {
    const august = table({ measure: 'headcount', from: day('2026-08-01'), until: day('2026-08-31') });
    expect(rowOf(august, 6).values).toEqual([1]);
    const found = why(facts, ask({ measure: 'headcount', dataFrom: day('2025-01-01') }), {
      key: 6,
      month: '2026-08',
    });
    expect(found.people.map(({ personId }) => personId)).toEqual([1200]);
    expect(found.months).toEqual([{ month: '2026-08', close: 1, joiners: 0, leavers: 1 }]);
  });

  test('a cell of a value that nobody ever had is empty, not the whole', () => {
    const found = why(facts, ask({ measure: 'headcount', dataFrom: day('2025-01-01') }), {
      key: 987,
      month: '2026-08',
    });
    expect([found.value, found.total, found.months.map(({ close }) => close)]).toEqual([0, 0, [null]]);
  });

  test('totals are worked out of totals, not of rates', () => {
    const october = table({});
    // 2 leavers; closes Nov–Feb 2, Mar–Apr 1, May–Jul 3, Aug–Oct 2: 8 + 2 + 9 + 6 = 25
    expect(october.total.values).toEqual([2 / (25 / 12)]);
  });
});
