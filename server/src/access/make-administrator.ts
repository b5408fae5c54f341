// What is done on the host where nobody can let others in any more (law `nobody_administers`): an administrator, by a command.
import type { Gift, Moment } from '@gremium/contract';
import type { Pool } from 'pg';
import { many, maybeOne, one } from '../database/sql';
import { transaction } from '../database/transaction';
import type { Clock } from '../time/clock';
import { newToken } from './password';
import { addGift, insertAccount, insertLink, letInAgain, lockAccounts } from './session.sql';

const LINK_DAYS = 1;

/**
 * Makes whoever has an address an administrator over everything: their account is let in again, or made, and not of anybody
 * whose access has ended. Answers with a one-time link's token, by which the password is set, and until when it holds.
 */
export const makeAdministrator = (
  pool: Pool,
  clock: Clock,
  email: string,
): Promise<{ token: string; expires: Moment }> =>
  transaction(pool, async (tx) => {
    await many(tx, lockAccounts);
    const gift: Gift = { role: 'administrator', scope: { type: 'all' }, by: 'host', at: clock.now() };
    const none = { language: 'en', passwordHash: null, personId: null, roles: '[]', grants: '[]' };
    const { id } =
      (await maybeOne<{ id: number }>(tx, letInAgain(email))) ??
      (await one<{ id: number }>(tx, insertAccount({ email, name: email, ...none })));
    await many(tx, addGift(id, JSON.stringify(gift)));
    const { token, tokenHash } = newToken();
    const link = { tokenHash, purpose: 'password' as const, account: id, days: LINK_DAYS };
    const { expires } = await one<{ expires: Moment }>(tx, insertLink(link, clock.now()));
    return { token, expires };
  });
