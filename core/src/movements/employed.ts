import type { Day, Row } from '@gremium/contract';
import { type Spell, primaryPlacement, spanOf } from '../people/employments';
import { isOn } from '../time/calendar';
import type { Draft } from '../time/draft';
import type { MovedThings } from './decide';
import { problem, thing } from '../time/problem';

/** An employment on a day: whose it is, what it says, its whole period, and where its primary place is. */
export type Employed = {
  employmentId: number;
  personId: number;
  row: Row<'employment'>;
  span: Pick<Spell, 'from' | 'until'>;
  primary: Row<'placement'> | undefined;
};

/** An employment on a day of its own; `employment_unknown` at the field of the day where there is none. */
export const employedOn = (
  draft: Draft,
  employmentId: number,
  on: Day,
  field: string = 'firstDay',
): Employed | null => {
  const rows = draft.register.rows('employment', employmentId);
  const row = rows.find((one) => isOn(one, on));
  const span = spanOf(rows);
  if (!row || !span) {
    const params = { employment: thing('employment', employmentId), day: on };
    draft.problems.push(problem('employment_unknown', params, field));
    return null;
  }
  const primary = primaryPlacement(draft.register, employmentId, on);
  return { employmentId, personId: row.values.personId, row, span, primary };
};

/** What a movement of an employment is about: the person, and where their primary place is. */
export const thingsOf = ({ employmentId, personId, primary }: Employed): MovedThings['things'] => ({
  personId,
  employmentId,
  ...(primary ? { positionId: primary.values.positionId, placementId: primary.thing } : {}),
});

/** Only what was said of something: what was left out is not named at all. */
export const saidOf = <T extends object>(given: T): { [F in keyof T]?: Exclude<T[F], undefined> } =>
  Object.fromEntries(Object.entries(given).filter(([, value]) => value !== undefined)) as never;
