// What is done on the host where nobody can let others in any more (law `nobody_administers`): an administrator, by a command.
import type { Gift } from '@gremium/contract';
import type { Pool } from 'pg';
import { many, maybeOne, one, sql } from '../database/sql';
import type { Clock } from '../time/clock';
import { newToken } from './password';
import { addGift, insertAccount, insertLink, lockAccounts } from './session.sql';

const LINK_DAYS = 1;

/**
 * Makes whoever has an address an administrator over everything: their account is let in again, or made, and not of anybody
 * whose access has ended. Answers with a one-time link's token, by which the password is set, and until when it holds.
 */
export const makeAdministrator = async (
  pool: Pool,
  clock: Clock,
  email: string,
): Promise<{ token: string; expires: string }> => {
  await many(pool, lockAccounts);
  const gift: Gift = { role: 'administrator', scope: { type: 'all' }, by: 'host', at: clock.now() as never };
  const known = await maybeOne<{ id: number }>(
    pool,
    // whose employment is over is let in by nothing that is tied to it
    sql`update account a set active = true, person_id = case when exists (
        select from employment_version v where v.person_id = a.person_id and v.superseded_by is null and v.valid_until = 'infinity')
      then a.person_id end where email = ${email} returning id`,
  );
  const account = {
    email,
    name: email,
    language: 'en',
    passwordHash: null,
    personId: null,
    roles: '[]',
    grants: '[]',
  };
  const { id } = known ?? (await one<{ id: number }>(pool, insertAccount(account)));
  await many(pool, addGift(id, JSON.stringify(gift)));
  const { token, tokenHash } = newToken();
  const { expires } = await one<{ expires: string }>(
    pool,
    insertLink({ tokenHash, purpose: 'password', account: id, days: LINK_DAYS }, clock.now()),
  );
  return { token, expires };
};
