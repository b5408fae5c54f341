import { describe, expect, test } from '@jest/globals';
import type { Bound } from '@gremium/contract';
import fc from 'fast-check';
import { addDays, day } from './calendar';
import { type Named, notation, timeline } from './notation';
import {
  type Revision,
  aimedAt,
  type Version,
  asOf,
  begin,
  difference,
  endOn,
  isEqual,
  joined,
  mend,
  remove,
  revised,
  setFrom,
  shift,
} from './timeline';

const after = (versions: Named[], revision: Revision<Named>): string =>
  notation(revised(versions, revision) as Named[]);
const codes = (revision: Revision<Named>) => revision.problems.map(({ code }) => code);
const second = (versions: Named[]) => versions[1] as Named;

describe('a timeline', () => {
  test('a title set from March is not undone by a location change planned for June', () => {
    const versions = timeline('2024-01-01 Clerk/Turku | 2024-06-01 Clerk/Kiel | infinity');
    const revision = setFrom(versions, { from: day('2024-03-01'), values: { title: 'Lead' } });
    expect(after(versions, revision)).toBe(
      '2024-01-01 Clerk/Turku | 2024-03-01 Lead/Turku | 2024-06-01 Lead/Kiel | infinity',
    );
  });

  test('a title set from March holds until the title itself changes, and says so', () => {
    const versions = timeline('2024-01-01 Clerk/Turku | 2024-06-01 Head/Turku | infinity');
    const revision = setFrom(versions, { from: day('2024-03-01'), values: { title: 'Lead' } });
    expect(after(versions, revision)).toBe(
      '2024-01-01 Clerk/Turku | 2024-03-01 Lead/Turku | 2024-06-01 Head/Turku | infinity',
    );
    expect(codes(revision)).toEqual(['later_versions']);
  });

  test('what a setting is about is the same whether its value is another or not, and ends where the field changes', () => {
    const versions = timeline(
      '2024-01-01 Clerk/Turku | 2024-06-01 Clerk/Kiel | 2024-09-01 Head/Kiel | infinity',
    );
    const partsOf = (title: string, more: object = {}) =>
      aimedAt(versions, { from: day('2024-03-01'), values: { title }, ...more }).map(
        ({ from, until }) => `${from} ${until}`,
      );
    const untilItChanges = ['2024-03-01 2024-06-01', '2024-06-01 2024-09-01'];
    expect([partsOf('Clerk'), partsOf('Lead')]).toEqual([untilItChanges, untilItChanges]);
    expect(partsOf('Lead', { override: true })).toEqual([...untilItChanges, '2024-09-01 infinity']);
    expect(partsOf('Clerk', { until: day('2024-05-01') })).toEqual(['2024-03-01 2024-05-01']);
    expect(aimedAt(versions, { from: day('2023-01-01'), values: { title: 'Lead' } })).toEqual([]);
  });

  test('asked to, it overrides the later ones too', () => {
    const versions = timeline('2024-01-01 Clerk/Turku | 2024-06-01 Head/Kiel | infinity');
    const revision = setFrom(versions, {
      from: day('2024-03-01'),
      values: { title: 'Lead' },
      override: true,
    });
    expect(after(versions, revision)).toBe(
      '2024-01-01 Clerk/Turku | 2024-03-01 Lead/Turku | 2024-06-01 Lead/Kiel | infinity',
    );
  });

  test('set between two days, it goes back to what was there afterwards', () => {
    const versions = timeline('2024-01-01 Clerk | 2024-06-01 Head | infinity');
    const edit = { from: day('2024-05-01'), until: day('2024-07-01'), values: { title: 'Acting' } };
    expect(after(versions, setFrom(versions, edit))).toBe(
      '2024-01-01 Clerk | 2024-05-01 Acting | 2024-06-01 Acting | 2024-07-01 Head | infinity',
    );
  });

  test('it does not reach over a gap', () => {
    const versions = timeline('2024-01-01 A | 2024-02-01 - | 2024-03-01 A | infinity');
    const revision = setFrom(versions, { from: day('2024-01-10'), values: { title: 'B' } });
    expect(after(versions, revision)).toBe(
      '2024-01-01 A | 2024-01-10 B | 2024-02-01 - | 2024-03-01 A | infinity',
    );
    const inGap = setFrom(versions, { from: day('2024-02-10'), values: { title: 'B' } });
    expect(codes(inGap)).toEqual(['no_version_on_day']);
  });

  test('mending keeps the period', () => {
    const versions = timeline('2024-01-01 A | 2024-02-01 B | infinity');
    expect(after(versions, mend(second(versions), { title: 'C' }))).toBe(
      '2024-01-01 A | 2024-02-01 C | infinity',
    );
  });

  test('ended on a day, nothing later is left', () => {
    const versions = timeline('2024-01-01 A | 2024-02-01 B | 2024-03-01 C | infinity');
    expect(after(versions, endOn(versions, day('2024-02-10')))).toBe(
      '2024-01-01 A | 2024-02-01 B | 2024-02-11',
    );
  });

  test('a removed version leaves its period to the one before, the first leaves a gap and says so', () => {
    const versions = timeline('2024-01-01 A | 2024-02-01 B | 2024-03-01 C | infinity');
    expect(after(versions, remove(versions, second(versions)))).toBe(
      '2024-01-01 A | 2024-03-01 C | infinity',
    );
    const first = remove(versions, versions[0] as Named);
    expect(after(versions, first)).toBe('2024-02-01 B | 2024-03-01 C | infinity');
    expect(codes(first)).toEqual(['gap_left']);
  });

  test('a version is shifted within its neighbours only', () => {
    const versions = timeline('2024-01-01 A | 2024-02-01 B | 2024-03-01 C | infinity');
    expect(after(versions, shift(versions, second(versions), day('2024-01-20')))).toBe(
      '2024-01-01 A | 2024-01-20 B | 2024-03-01 C | infinity',
    );
    for (const past of ['2024-01-01', '2024-03-01', '2023-01-01'])
      expect(codes(shift(versions, second(versions), day(past)))).toEqual(['shift_past_neighbour']);
  });

  test('neighbours with equal values are one when read', () => {
    const versions = timeline('2024-01-01 A | 2024-02-01 A | 2024-03-01 B | infinity');
    expect(joined(versions)).toHaveLength(2);
    expect(difference(versions, joined(versions) as Named[])).toEqual([]);
  });
});

// Generated timelines over sixty days, with gaps, and any operation with any arguments.
const START = day('2024-01-01');
const dayNo = (n: number): Bound => addDays(START, n);
const anyTimeline = fc
  .array(
    fc.record({
      length: fc.integer({ min: 1, max: 12 }),
      title: fc.constantFrom('A', 'B', 'C', ''),
      place: fc.constantFrom('x', 'y'),
    }),
    { minLength: 1, maxLength: 6 },
  )
  .map((parts) => {
    let at = 0;
    return parts.flatMap(({ length, title, place }, i) => {
      const from = i === 0 ? dayNo(0) : dayNo(at);
      at += length;
      const until = i === parts.length - 1 ? ('infinity' as const) : dayNo(at);
      return title === '' ? [] : [{ from, until, values: { title, place } }];
    });
  })
  .filter((versions) => versions.length > 0);

type Operation = { name: string; run: (versions: Named[]) => Revision<Named>; from?: number; until?: number };
const dayNumber = fc.integer({ min: -3, max: 70 });
const values = fc.oneof(
  fc.record({ title: fc.constantFrom('A', 'D') }),
  fc.record({ place: fc.constantFrom('x', 'z') }),
  fc.record({ title: fc.constantFrom('A', 'D'), place: fc.constantFrom('x', 'z') }),
);
const pick = (versions: Named[], i: number) => versions[i % versions.length] as Named;
const anyOperation: fc.Arbitrary<Operation> = fc.oneof(
  fc.tuple(dayNumber, values, fc.boolean()).map(([n, v, override]) => ({
    name: 'set',
    from: n,
    run: (t: Named[]) => setFrom(t, { from: dayNo(n), values: v, override }),
  })),
  fc.tuple(dayNumber, fc.integer({ min: 1, max: 20 }), values).map(([n, length, v]) => ({
    name: 'set between',
    from: n,
    until: n + length,
    run: (t: Named[]) => setFrom(t, { from: dayNo(n), until: dayNo(n + length), values: v }),
  })),
  fc.tuple(fc.nat(9), values).map(([i, v]) => ({ name: 'mend', run: (t: Named[]) => mend(pick(t, i), v) })),
  dayNumber.map((n) => ({ name: 'end', from: n + 1, run: (t: Named[]) => endOn(t, dayNo(n)) })),
  fc.nat(9).map((i) => ({ name: 'remove', run: (t: Named[]) => remove(t, pick(t, i)) })),
  fc
    .tuple(fc.nat(9), dayNumber)
    .map(([i, n]) => ({ name: 'shift', run: (t: Named[]) => shift(t, pick(t, i), dayNo(n)) })),
  fc.tuple(dayNumber, fc.integer({ min: 1, max: 20 })).map(([n, length]) => ({
    name: 'begin',
    from: n,
    until: n + length,
    run: (t: Named[]) =>
      begin(t, { from: dayNo(n), until: dayNo(n + length), values: { title: 'N', place: 'n' } }),
  })),
);

const days = Array.from({ length: 80 }, (_, i) => dayNo(i - 5));
const valuesOn = (versions: readonly Version[], on: Bound) => asOf(versions, on)?.values ?? null;

// A bare check: millions of them, and each expect() costs a hundred times as much.
const must = (holds: boolean): void => {
  if (!holds) throw new Error('the law does not hold');
};

describe('laws of timelines, over generated ones', () => {
  const runs = { numRuns: 12_000 };

  test('no operation makes an overlap, and its inverse gives the timeline back', () => {
    fc.assert(
      fc.property(anyTimeline, anyOperation, (versions, { run }) => {
        const revision = run(versions);
        const result = revised(versions, revision);
        for (let i = 1; i < result.length; i++)
          must((result[i - 1] as Named).until <= (result[i] as Named).from);
        must(result.every(({ from, until }) => from < until));
        const inverse = { superseded: revision.recorded, recorded: revision.superseded };
        must(
          isEqual(
            revised(result, inverse),
            [...versions].sort((a, b) => (a.from < b.from ? -1 : 1)),
          ),
        );
      }),
      runs,
    );
  });

  test('what lies outside is untouched, and gaps are made only when asked for', () => {
    fc.assert(
      fc.property(anyTimeline, anyOperation, (versions, { name, run, from, until }) => {
        const revision = run(versions);
        const result = revised(versions, revision);
        const isGapAsked = name === 'end' || codes(revision).includes('gap_left') || name === 'shift';
        for (const on of days) {
          const [was, is] = [valuesOn(versions, on), valuesOn(result, on)];
          const isOutside =
            (from !== undefined && on < dayNo(from)) || (until !== undefined && on >= dayNo(until));
          if (isOutside) must(isEqual(is, was));
          if (was && !isGapAsked) must(is !== null);
        }
      }),
      runs,
    );
  });

  test('set changes only the fields given, each up to where it next changes by itself', () => {
    fc.assert(
      fc.property(anyTimeline, dayNumber, values, (versions, n, patch) => {
        const result = revised(versions, setFrom(versions, { from: dayNo(n), values: patch }));
        for (const field of ['title', 'place'] as const) {
          let reaches = valuesOn(versions, dayNo(n)) !== null && field in patch;
          let previous = (valuesOn(versions, dayNo(n)) as Record<string, unknown> | null)?.[field];
          for (const on of days.filter((d) => d >= dayNo(n))) {
            const was = valuesOn(versions, on) as Record<string, unknown> | null;
            if (!was || was[field] !== previous) reaches = false;
            previous = was?.[field];
            const is = valuesOn(result, on) as Record<string, unknown> | null;
            must(is?.[field] === (reaches ? (patch as Record<string, unknown>)[field] : was?.[field]));
          }
        }
      }),
      runs,
    );
  });

  test('the difference is exactly the days that differ', () => {
    fc.assert(
      fc.property(anyTimeline, anyTimeline, (a, b) => {
        const found = difference(a, b);
        for (const on of days)
          must(
            found.some(({ from, until }) => from <= on && on < until) !==
              isEqual(valuesOn(a, on), valuesOn(b, on)),
          );
      }),
      { numRuns: 2000 },
    );
  });
});
