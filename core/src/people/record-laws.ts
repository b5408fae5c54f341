// Laws of what else is kept of people: days in their order, cost splits that are whole, honours that their kinds allow.
import type { Change, Row, SectionName } from '@gremium/contract';
import { isBefore, isOn, overlaps } from '../time/calendar';
import type { Offence } from '../time/offence';
import { problem } from '../time/problem';
import type { Register } from '../time/register';

// Of each section the days that follow each other, as far as both are said.
const DAYS: { [S in SectionName]?: readonly (readonly [string, string])[] } = {
  identifier: [['issuedOn', 'expiresOn']],
  held_certificate: [['issuedOn', 'expiresOn']],
  attended_training: [['completedOn', 'expiresOn']],
  medical_fitness: [['examinedOn', 'expiresOn']],
  disciplinary_measure: [['imposedOn', 'lapsesOn']],
  asset: [['givenOn', 'returnedOn']],
  award: [
    ['awardedOn', 'expiresOn'],
    ['awardedOn', 'takenBackOn'],
  ],
};

/** A day that ends something does not lie before the one that began it (`days_turned`). */
export const daysInOrder = (row: Row): Offence[] =>
  (DAYS[row.section] ?? []).flatMap(([first, last]) => {
    const values = row.values as Record<string, unknown>;
    const [from, until] = [values[first], values[last]];
    return typeof from === 'string' && typeof until === 'string' && isBefore(until as never, from as never)
      ? [{ problem: problem('days_turned', { day: from }, last), rows: [row], on: row }]
      : [];
  });

const WHOLE = 100;

/** Where the cost of an employment is split, its parts are exactly the whole on each day (`cost_split_whole`). */
export const splitWhole = (register: Register, employmentId: number): Offence[] => {
  const rows = register.referrers('cost_split', 'employmentId', employmentId);
  // it can be otherwise only where a part begins or ends
  const days = [...new Set(rows.flatMap(({ from, until }) => [from, until]))];
  for (const day of days) {
    const there = rows.filter((row) => isOn(row, day));
    const sum = there.reduce((total, { values }) => total + values.part, 0);
    if (there.length === 0 || sum === WHOLE) continue;
    const said = { sum: (sum / WHOLE).toFixed(2), day };
    const [on] = there as [Row<'cost_split'>];
    return [{ problem: problem('cost_split_whole', said, 'part'), rows: there, on }];
  }
  return [];
};

type AskedOf = 'orderNumber' | 'orderedOn' | 'country' | 'issuer' | 'ordinal';

const meaningOf = (register: Register, honourId: number) =>
  register.rows('list_entry', honourId).at(-1)?.values.flags as
    { once?: boolean; asks?: AskedOf[] } | undefined;

/** Whether an honour still stands: it was not taken back. */
export const standsStill = ({ values }: Row<'award'>): boolean => values.takenBackOn === null;

/** An honour says what its kind asks for, is given as often as that allows, and is taken back by an order (`honour_*`). */
export const honoursFit = (
  register: Register,
  personId: number,
  recorded: ReadonlySet<number>,
): Offence[] => {
  const rows = register.referrers('award', 'personId', personId);
  const found: Offence[] = [];
  for (const row of rows) {
    const { values, id } = row;
    const { once = false, asks = [] } = meaningOf(register, values.honourId) ?? {};
    const other = rows.find(
      (one) =>
        one.thing !== row.thing &&
        one.values.honourId === values.honourId &&
        standsStill(one) &&
        overlaps(one, row),
    );
    if (once && other && standsStill(row) && (recorded.has(id) || !recorded.has(other.id)))
      found.push({
        problem: problem('honour_once', { day: other.values.awardedOn }, 'honourId'),
        rows: [row],
        on: row,
      });
    if (!recorded.has(id)) continue;
    for (const field of asks)
      if (values[field] === null)
        found.push({ problem: problem('honour_needs', {}, field), rows: [row], on: row });
    if ((values.takenBackOn === null) !== (values.takenBackOrder === null))
      found.push({ problem: problem('order_taken_back', {}, 'takenBackOrder'), rows: [row], on: row });
  }
  return found;
};

/** The number in the series that an honour of a kind would have: after those awarded before it, also such as were taken back. */
export const nextOrdinal = (
  honours: readonly Pick<Row<'award'>, 'values'>[],
  honourId: number,
  awardedOn: string,
): number =>
  honours.reduce(
    (next, { values }) =>
      values.honourId === honourId && !isBefore(awardedOn as never, values.awardedOn as never)
        ? Math.max(next, (values.ordinal ?? 0) + 1)
        : next,
    1,
  );

/** People of whose honours a change says something. */
export const honouredIn = ({ recorded }: Change): boolean =>
  recorded.some(({ section }) => section === 'award');
