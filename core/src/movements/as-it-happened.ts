// What has happened is recorded, also where a place is taken: only plans are refused.
import type { Bound, Day } from '@gremium/contract';
import { positionState } from '../structure/occupancy';
import { withinLimits } from '../structure/position-laws';
import { OPEN, addDays, earlier, isBefore, later } from '../time/calendar';
import type { Draft } from '../time/draft';
import type { Register } from '../time/register';

/** So soon it is looked at who stays, in days. */
export const REVIEW_DAYS = 14;

/** Stands for a reason where none was given. */
export const AS_IT_HAPPENED = 'as it happened';

// The first day after one on which a position is over its limits that it is so no longer.
const roomFrom = (register: Register, positionId: number, from: Bound): Bound => {
  const rows = [
    ...register.referrers('placement', 'positionId', positionId),
    ...register.rows('position_limits', positionId),
  ];
  const days = rows.flatMap((row) => [row.from, row.until]).filter((on) => isBefore(from, on) && on !== OPEN);
  return (
    [...new Set(days)]
      .sort()
      .find((on) => positionState(register, positionId, on).occupancy !== 'over_held') ?? OPEN
  );
};

/**
 * Records a placement above the limits of its positions wherever it would be over them: with a reason, and a day on which that is
 * looked at. Nothing happens where there is room.
 */
export const asItHappened = (
  draft: Draft,
  placementId: number,
  { reason, today }: { reason: string | undefined; today: Day },
): void => {
  const { register } = draft;
  const isOver = (positionId: number) =>
    withinLimits(register, positionId)
      .filter(({ problem: { code } }) => code === 'place_taken' || code === 'fte_taken')
      .flatMap(({ rows }) => rows)
      .find(({ section, thing }) => section === 'placement' && thing === placementId);
  const positions = new Set(register.rows('placement', placementId).map(({ values }) => values.positionId));
  for (const positionId of positions)
    for (let row = isOver(positionId); row; row = isOver(positionId)) {
      const first = isBefore(row.from, today) ? today : (row.from as Day);
      const values = {
        aboveReason: reason ?? AS_IT_HAPPENED,
        reviewOn: addDays(later(today, first) as Day, REVIEW_DAYS) as Day,
      };
      const until = earlier(row.until, roomFrom(register, positionId, row.from));
      draft.set('placement', placementId, { from: row.from, until, values });
    }
};
