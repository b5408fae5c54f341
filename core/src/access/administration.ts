// Who may let others in: that somebody can, on every day to come (law `nobody_administers`), and that nobody gives more than
// they have. Worked out of accounts and the roles there are; no register needed.
import {
  type AccountRole,
  type Bound,
  type Catalogue,
  type Day,
  type Grant,
  type May,
  Act,
  grantOf,
  grantsOf,
  may,
} from '@gremium/contract';
import { givenOn } from './gifts';
import { OPEN, addDays, isBefore, later } from '../time/calendar';

/** An account as the law asks for it. */
export type Administering = {
  /** It has a password, and is not paused. */
  isActive: boolean;
  roles: readonly AccountRole[];
  grants: readonly Grant[];
  /** Its last day of access; null: for ever. */
  accessUntil: Bound | null;
};

/** Whether an account may let others in on a day. */
export const mayLetIn = (account: Administering, catalogue: Catalogue, on: Day): boolean =>
  account.isActive &&
  (account.accessUntil === null || !isBefore(account.accessUntil, on)) &&
  may({ grants: grantsOf({ ...account, roles: givenOn(account.roles, on) }, catalogue) }).doEverywhere(
    'access',
  );

/**
 * The first day from today on which nobody could let others in; null: there always is somebody. Days on which a gift begins
 * or an access has ended are the ones that count; between them nothing changes.
 */
export const nobodyAdministersOn = (
  accounts: readonly Administering[],
  catalogue: Catalogue,
  today: Day,
): Day | null => {
  const ends = accounts.flatMap(({ roles, accessUntil }) => [
    ...roles.flatMap(({ from, lastDay }) => [
      ...(from ? [from] : []),
      ...(lastDay ? [addDays(lastDay, 1)] : []),
    ]),
    ...(accessUntil === null || accessUntil === OPEN ? [] : [addDays(accessUntil as Day, 1)]),
  ]);
  const days = [today, ...ends.map((day) => later(day, today))].sort();
  return days.find((day) => !accounts.some((account) => mayLetIn(account, catalogue, day))) ?? null;
};

/** Whether somebody has everything there is to give: all acts, and the right to change all that is not sensitive. */
const hasEverything = (mine: May, catalogue: Catalogue): boolean =>
  Act.options.every((act) => mine.doEverywhere(act)) &&
  catalogue.sections.every(({ name, sensitive }) => sensitive || mine.everywhere(name, 'edit'));

/** What of a grant somebody does not have over everything and so may not give: the first section or act. Null: they may give it. */
export const notTheirsToGive = (
  giver: { grants: readonly Grant[] },
  gift: Pick<Grant, 'acts' | 'sections'>,
  catalogue: Catalogue,
): string | null => {
  const mine = may(giver);
  if (hasEverything(mine, catalogue)) return null;
  const act = gift.acts.find((one) => !mine.doEverywhere(one));
  if (act) return act;
  const section = Object.entries(gift.sections).find(
    ([name, level]) => level !== 'none' && !mine.everywhere(name, level),
  );
  return section ? section[0] : null;
};

/** The same of a role that is to be given. */
export const roleNotTheirs = (
  giver: { grants: readonly Grant[] },
  role: AccountRole,
  catalogue: Catalogue,
): string | null => notTheirsToGive(giver, grantOf(role, catalogue), catalogue);
