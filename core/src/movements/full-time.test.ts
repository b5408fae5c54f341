// Other full-time hours, worked by hand; that keeping shares puts nobody over a limit is tried with many hours.
import { beforeEach, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { MovementInput, Values } from '@gremium/contract';
import { START, type SmallWorld, smallWorld } from '../../test/small-world';
import { laws } from '../laws';
import { exceeds, fraction } from '../structure/fraction';
import { heldShare } from '../structure/occupancy';
import { BEGINNING, day } from '../time/calendar';
import { decisionOf } from './decisions';

let world: SmallWorld;
beforeEach(() => {
  world = smallWorld();
});

const TODAY = day('2025-05-05');
const NEW_YEAR = day('2026-01-01');

const change = (input: Partial<MovementInput<'change_full_time'>>) =>
  decisionOf('change_full_time')(
    world.draft,
    { firstDay: NEW_YEAR, fullTime: 3700, keep: 'share', others: [], ...input },
    { today: TODAY },
  );
const broken = () => laws(world.register, world.draft.change).map(({ problem }) => problem);
const held = (placement: number, on: string): Partial<Values<'placement'>> | undefined => {
  const at = world.register.at('placement', placement, day(on));
  return at && { hours: at.hours, fullTime: at.fullTime, fullTimeSource: at.fullTimeSource };
};

// A holds 38 h in a whole position, B 19 h in a half one, while full time is 38 h.
const aAndB = () => {
  change({ firstDay: START, fullTime: 3800 });
  const { position, units, hired } = world;
  const [whole, half] = [position(units.harbour, 'Whole'), position(units.harbour, 'Half', {}, { fte: 50 })];
  return {
    half,
    a: hired('A', whole, '2024-02-01').placementId,
    b: hired('B', half, '2024-02-01', { hours: 1900 }).placementId,
  };
};

describe('full-time hours from 38 to 37', () => {
  test('keeping shares: 37 and 18.5 hours, the day before as it was', () => {
    const { a, b } = aAndB();
    const moved = change({});
    expect(held(a, '2026-01-01')).toEqual({ hours: 3700, fullTime: 3700, fullTimeSource: 'organisation' });
    expect(held(b, '2026-01-01')).toEqual({ hours: 1850, fullTime: 3700, fullTimeSource: 'organisation' });
    expect(held(a, '2025-12-31')).toEqual({ hours: 3800, fullTime: 3800, fullTimeSource: 'organisation' });
    expect(held(b, '2025-12-31')).toEqual({ hours: 1900, fullTime: 3800, fullTimeSource: 'organisation' });
    expect(moved?.concerned?.count).toBe(2);
    expect(broken()).toEqual([]);
  });

  test('keeping hours: 38 of 37 and 19 of 37, each over by what that is, which needs a word', () => {
    const { a, b, half } = aAndB();
    change({ keep: 'hours' });
    expect(held(a, '2026-01-01')).toMatchObject({ hours: 3800, fullTime: 3700 });
    expect(held(b, '2026-01-01')).toMatchObject({ hours: 1900, fullTime: 3700 });
    const found = broken();
    expect(found.map(({ code, severity }) => [code, severity])).toEqual([
      ['over_by_full_time', 'warning'],
      ['over_by_full_time', 'warning'],
      // A holds more than a whole share now
      ['share_above_one', 'warning'],
    ]);
    // 38/37 − 1 = 1/37; 19/37 − 1/2 = 1/74
    expect(found.flatMap(({ params }) => params['exactly'] ?? []).sort()).toEqual(['1/37', '1/74']);
    const ofB = found.find(({ params }) => (params['position'] as { id: number }).id === half);
    expect(ofB?.params).toMatchObject({ exactly: '1/74', over: 1, day: '2026-01-01' });
  });

  test('each holder as decided: A keeps the share, B the hours', () => {
    const { a, b } = aAndB();
    change({ others: [b] });
    expect(held(a, '2026-01-01')).toMatchObject({ hours: 3700, fullTime: 3700 });
    expect(held(b, '2026-01-01')).toMatchObject({ hours: 1900, fullTime: 3700 });
    expect(broken().map(({ params }) => params['exactly'])).toEqual(['1/74']);
  });

  test('a second change later leaves what holds from there on; one before it ends where it begins', () => {
    const { a } = aAndB();
    change({ firstDay: day('2027-01-01'), fullTime: 3600 });
    change({});
    expect(held(a, '2025-12-31')).toMatchObject({ hours: 3800, fullTime: 3800 });
    expect(held(a, '2026-07-01')).toMatchObject({ hours: 3700, fullTime: 3700 });
    expect(held(a, '2027-01-01')).toMatchObject({ hours: 3600, fullTime: 3600 });
  });
});

describe('where full-time hours come from', () => {
  test('the agreement before the location, the location before the organisation; typed ones stay', () => {
    const { draft, register, position, units, hired } = world;
    const agreement = draft.create('list_entry', BEGINNING, {
      list: 'agreement',
      code: 'SEA',
      label: { en: 'Sea', de: 'See' },
      flags: { fullTime: 4000 },
    });
    const port = draft.create('location', BEGINNING, {
      code: 'P',
      name: 'Port',
      city: 'P',
      country: 'FI',
      timeZone: 'UTC',
      fullTime: 3900,
    });
    const agreed = position(units.harbour, 'Agreed', { agreementId: agreement, locationId: port });
    const local = position(units.harbour, 'Local', { locationId: port });
    const plain = position(units.harbour, 'Plain');
    const typed = position(units.harbour, 'Typed');
    const [one, two, three, four] = [agreed, local, plain, typed].map(
      (id, i) => hired(`P${i}`, id, '2024-02-01').placementId,
    ) as [number, number, number, number];
    draft.set('placement', four, { from: day('2024-02-01'), values: { fullTimeSource: 'typed' } });
    expect([one, two, three].map((id) => held(id, '2024-03-01'))).toEqual([
      { hours: 4000, fullTime: 4000, fullTimeSource: 'agreement' },
      { hours: 3900, fullTime: 3900, fullTimeSource: 'location' },
      { hours: 3750, fullTime: 3750, fullTimeSource: 'organisation' },
    ]);
    const touched = (input: Partial<MovementInput<'change_full_time'>>) =>
      change(input)?.concerned?.lines.map(({ what }) => what.id);
    expect(touched({})).toEqual([three]);
    expect(touched({ locationId: port, fullTime: 3850 })).toEqual([two]);
    expect(touched({ agreementId: agreement, fullTime: 3950 })).toEqual([one]);
    expect(held(one, '2026-01-01')).toEqual({ hours: 3950, fullTime: 3950, fullTimeSource: 'agreement' });
    expect(register.at('location', port, day('2025-12-31'))?.fullTime).toBe(3900);
    expect(held(four, '2026-01-01')).toMatchObject({ hours: 3750, fullTimeSource: 'typed' });
  });

  test('a location that had none of its own takes its people over from the organisation', () => {
    const { draft, position, units, hired } = world;
    const place = { code: 'P', name: 'Port', city: 'P', country: 'FI', timeZone: 'UTC', fullTime: null };
    const port = draft.create('location', BEGINNING, place);
    const { placementId } = hired('A', position(units.harbour, 'Local', { locationId: port }), '2024-02-01');
    change({ locationId: port, fullTime: 3600 });
    expect(held(placementId, '2026-01-01')).toEqual({
      hours: 3600,
      fullTime: 3600,
      fullTimeSource: 'location',
    });
  });

  test('a location that is not there is said with its field', () => {
    expect(change({ locationId: 4 })).toBeNull();
    expect(world.draft.problems).toMatchObject([{ code: 'reference_missing', field: 'locationId' }]);
  });
});

test('keeping the share holds never more than before, and less by no hundredth of an hour', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 5000 }),
      fc.integer({ min: 1000, max: 5000 }),
      fc.integer({ min: 1000, max: 5000 }),
      (hours, old, next) => {
        world = smallWorld();
        change({ firstDay: START, fullTime: old });
        const position = world.position(world.units.harbour, 'P', {}, { fte: null });
        const { placementId } = world.hired('A', position, '2024-02-01', { hours });
        change({ fullTime: next });
        const [before, after] = ['2025-12-31', '2026-01-01'].map((on) =>
          world.register.at('placement', placementId, day(on)),
        ) as [Values<'placement'>, Values<'placement'>];
        expect(exceeds(heldShare(after), heldShare(before))).toBe(false);
        expect(exceeds(fraction(hours * next, old), fraction(after.hours + 1))).toBe(false);
      },
    ),
    { numRuns: 200 },
  );
});
