import type { Bound, Row, Values } from '@gremium/contract';
import type { Reading } from '../time/register';
import { OPEN, type Period, earlier, isBefore, isOn, later } from '../time/calendar';

/** First and last bounds over all rows of a thing; null without rows. */
export const spanOf = (rows: readonly Period[]): Period | null =>
  rows.length === 0
    ? null
    : rows.reduce<Period>(
        (span, { from, until }) => ({ from: earlier(span.from, from), until: later(span.until, until) }),
        { from: (rows[0] as Period).from, until: (rows[0] as Period).until },
      );

/** One employment over all its versions. */
export type Spell = Period & { id: number; rows: readonly Row<'employment'>[] };

/** All employments of a person with their whole periods, earliest first. */
export const spellsOf = (register: Reading, personId: number): Spell[] => {
  const ids = new Set(register.referrers('employment', 'personId', personId).map(({ thing }) => thing));
  return [...ids]
    .map((id) => ({ id, rows: register.rows('employment', id) }))
    .map(({ id, rows }) => ({ id, rows, ...(spanOf(rows) as Period) }))
    .sort((a, b) => (a.from === b.from ? a.id - b.id : isBefore(a.from, b.from) ? -1 : 1));
};

/** The main employment of a person on a day: the marked one, else the earlier, else the lower id. */
export const mainEmployment = (spells: readonly Spell[], on: Bound): Spell | undefined => {
  const running = spells.filter((spell) => isOn(spell, on));
  const marked = running.find(({ rows }) => rows.find((row) => isOn(row, on))?.values.markedMain);
  return marked ?? running[0];
};

/** The employment by which a person counts in headcount on a day: the main one of those whose worker type counts. */
export const countedEmployment = (
  register: Reading,
  spells: readonly Spell[],
  on: Bound,
): Spell | undefined =>
  mainEmployment(
    spells.filter(({ rows }) => {
      const type = rows.find((row) => isOn(row, on))?.values.workerTypeId;
      return type !== undefined && workerFlags(register, type).counted;
    }),
    on,
  );

/** The primary placement of an employment on a day. */
export const primaryPlacement = (
  register: Reading,
  employmentId: number,
  on: Bound,
): Row<'placement'> | undefined =>
  register
    .referrers('placement', 'employmentId', employmentId)
    .find((row) => row.values.kind === 'primary' && isOn(row, on));

/** The person's primary placement on a day, over the main employment. */
export const placementOf = (register: Reading, personId: number, on: Bound): Row<'placement'> | undefined => {
  const main = mainEmployment(spellsOf(register, personId), on);
  return main && primaryPlacement(register, main.id, on);
};

/** The person behind a placement. */
export const personOf = (
  register: Reading,
  placement: Values<'placement'>,
  on: Bound,
): number | undefined => {
  const rows = register.rows('employment', placement.employmentId);
  return (rows.find((row) => isOn(row, on)) ?? rows[0])?.values.personId;
};

/** Flags of a worker type; everything is taken as paid, counted and placed unless said otherwise. */
export const workerFlags = (
  register: Reading,
  workerTypeId: number,
): { counted: boolean; placed: boolean; paid: boolean } => {
  const flags = register.rows('list_entry', workerTypeId)[0]?.values.flags ?? {};
  return { counted: flags.counted !== false, placed: flags.unplaced !== true, paid: flags.paid !== false };
};

/** Whether a placement stands in for somebody, or stands beside the primary one, until it ends by itself. */
export const standsAside = ({ kind }: Pick<Values<'placement'>, 'kind'>): boolean =>
  kind === 'cover' || kind === 'acting' || kind === 'second';

/** Whether an employment has a last day that is no leaving and leads into no other employment: it could go on. */
export const couldGoOn = (register: Reading, employmentId: number): boolean => {
  const rows = register.rows('employment', employmentId);
  const until = spanOf(rows)?.until ?? OPEN;
  const last = rows.find((row) => row.until === until);
  if (until === OPEN || !last || last.values.endReasonId !== null) return false;
  return register.referrers('employment', 'continuesId', employmentId).length === 0;
};
