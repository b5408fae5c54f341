// Pay that stays as it is while what it is compared with becomes another one: hours, full time, grade, range.
import type { Bound, Change, Problem, Row, Values } from '@gremium/contract';
import { intersection, isOn, overlaps } from '../time/calendar';
import { problem, thing } from '../time/problem';
import type { Register } from '../time/register';
import { personOf } from './employments';
import { type Worked, payOutsideRange, payPlace } from './pay-range';
import { daysOf } from './yearly';

type Look = (...of: 'range'[]) => void;

const workedOf = (
  register: Register,
  { positionId, hours, fullTime }: Values<'placement'>,
  on: Bound,
  pay: Values<'pay'>,
): Worked => ({
  days: daysOf(register, pay, on),
  gradeId: register.at('position', positionId, on)?.gradeId ?? null,
  hours,
  fullTime,
});

// What of a row stood before it on some of its days.
const before = <R extends Row>({ superseded }: Change, row: R): R | undefined =>
  (superseded as Row[]).find(
    (old) => old.section === row.section && old.thing === row.thing && overlaps(old, row),
  ) as R | undefined;

type Compared = { placement: Row<'placement'>; pay: Row<'pay'>; on: Bound };

// Base pay and primary placements that run side by side, each once, on the first day on which they do.
const comparedIn = (
  register: Register,
  placements: readonly Row<'placement'>[],
  within: { from: Bound; until: Bound },
): Compared[] =>
  placements
    .filter(({ values }) => values.kind === 'primary')
    .flatMap((placement) => {
      const days = intersection(placement, within);
      if (!days) return [];
      return register.referrers('pay', 'employmentId', placement.values.employmentId, days).flatMap((pay) => {
        const both = intersection(pay, days);
        return both ? [{ placement, pay, on: both.from }] : [];
      });
    });

const isFresh = ({ recorded }: Change, pay: Row<'pay'>): boolean =>
  (recorded as Row[]).some(({ id }) => id === pay.id);

// What a placement was before: itself, or the one that it takes the place of.
const placedBefore = (row: Row<'placement'>, change: Change): Row<'placement'> | undefined =>
  before(change, row) ??
  (change.superseded as Row[]).find(
    (old): old is Row<'placement'> =>
      old.section === 'placement' &&
      (old as Row<'placement'>).values.employmentId === row.values.employmentId &&
      (old as Row<'placement'>).values.kind === 'primary',
  );

// Pay that comes to lie outside by the hours, the position or the full time of a placement.
const ofPlacement = (
  register: Register,
  row: Row<'placement'>,
  change: Change,
  look: Look,
): Compared | undefined => {
  const was = placedBefore(row, change);
  return comparedIn(register, [row], row).find(({ pay, on }) => {
    if (isFresh(change, pay)) return false;
    const place = payPlace(register, pay.values, workedOf(register, row.values, on, pay.values), on);
    if (place) look('range');
    if (!place?.isOutside) return false;
    const old =
      was && payPlace(register, pay.values, workedOf(register, was.values, was.from, pay.values), on);
    return !old?.isOutside;
  });
};

// Of one person the amount is said, of many who they are.
const ofPlacements = (
  register: Register,
  rows: readonly Row<'placement'>[],
  change: Change,
  look: Look,
): Problem[] => {
  const found = rows.flatMap((row) => ofPlacement(register, row, change, look) ?? []);
  const [first] = found;
  if (!first) return [];
  if (new Set(rows.map(({ values }) => values.employmentId)).size > 1)
    return named(
      new Set(found.flatMap(({ placement, on }) => personOf(register, placement.values, on) ?? [])),
    );
  const worked = workedOf(register, first.placement.values, first.on, first.pay.values);
  return payOutsideRange(register, first.pay.values, worked, first.on);
};

const MOST_NAMED = 12;

const named = (people: ReadonlySet<number>): Problem[] => {
  if (people.size === 0) return [];
  const first = [...people].slice(0, MOST_NAMED).map((id) => thing('person', id));
  return [problem('pay_of_others_outside', { people: first, count: people.size }, 'gradeId')];
};

/** Compares the pay of many with what a grade says now and said before; names those who are outside only now. */
const outsideNow = (
  register: Register,
  compared: readonly Compared[],
  change: Change,
  wasOutside: (one: Compared) => boolean,
): Problem[] => {
  const people = new Set<number>();
  for (const one of compared) {
    const { placement, pay, on } = one;
    if (isFresh(change, pay) || isFresh(change, placement as never)) continue;
    const place = payPlace(register, pay.values, workedOf(register, placement.values, on, pay.values), on);
    if (!place?.isOutside || wasOutside(one)) continue;
    const person = personOf(register, placement.values, on);
    if (person !== undefined) people.add(person);
  }
  return named(people);
};

const ofPosition = (register: Register, row: Row<'position'>, change: Change): Problem[] => {
  const was = before(change, row);
  if (!was || was.values.gradeId === row.values.gradeId) return [];
  const held = register.referrers('placement', 'positionId', row.thing, row);
  return outsideNow(register, comparedIn(register, held, row), change, ({ placement, pay, on }) => {
    const worked = { ...workedOf(register, placement.values, on, pay.values), gradeId: was.values.gradeId };
    return payPlace(register, pay.values, worked, on)?.isOutside === true;
  });
};

const ofRange = (register: Register, row: Row<'grade_range'>, change: Change): Problem[] => {
  const was = before(change, row);
  const positions = register
    .referrers('position', 'gradeId', row.values.gradeId)
    .filter((position) => overlaps(position, row));
  const compared = positions.flatMap((position) => {
    const days = intersection(position, row);
    return days
      ? comparedIn(register, register.referrers('placement', 'positionId', position.thing, days), days)
      : [];
  });
  const inRange = ({ pay }: Compared) => pay.values.currency === row.values.currency;
  return outsideNow(register, compared.filter(inRange), change, ({ placement, pay, on }) => {
    if (!was || !isOn(was, on)) return false;
    const worked = workedOf(register, placement.values, on, pay.values);
    return payPlace(register, pay.values, worked, on, was.values)?.isOutside === true;
  });
};

/** Whose pay comes to lie outside the range of the grade by a change of hours, position, grade or range (a warning each). */
export const payAround = (
  register: Register,
  fresh: readonly Row[],
  change: Change,
  look: Look,
): Problem[] => {
  const of = <S extends 'placement' | 'position' | 'grade_range'>(section: S) =>
    fresh.filter((row) => row.section === section) as Row<S>[];
  return [
    ...ofPlacements(register, of('placement'), change, look),
    ...of('position').flatMap((row) => ofPosition(register, row, change)),
    ...of('grade_range').flatMap((row) => ofRange(register, row, change)),
  ];
};
