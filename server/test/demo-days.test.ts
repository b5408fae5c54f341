// The demo loaded on three days: each of its accounts signs in, and is what its line says.
import { describe, expect, test } from '@jest/globals';
import { type Day, endpoints } from '@gremium/contract';
import { demoAccounts } from '../../demo/accounts';
import { fillWithDemo } from '../../demo/make';
import { clockFrom, ownerPool } from '@gremium/server';
import { Client, copyDatabase, one, signIn, sql, startServer } from './harness';

describe('a demo begun on', () => {
  test.each(['2026-12-01', '2027-02-28', '2028-02-29'])('%s', async (on) => {
    const url = await copyDatabase('empty');
    const owner = ownerPool(url);
    await fillWithDemo(owner, on as Day, 300);
    const running = await startServer('demo', { url, clock: clockFrom(`${on}T09:40:00Z`) });
    const { demoAccounts: shown } = await new Client(running.address).call(endpoints.entrance, {});
    expect(shown.map(({ email }) => email)).toEqual(demoAccounts.map(({ email }) => email));
    for (const { email, password, what } of demoAccounts) {
      const client = await signIn(running.address, email, password);
      const { people: lines, total } = await client.call(endpoints.people, { query: { limit: 1 } });
      // the crew member sees one record, which is their own, of somebody at work
      // a team is of four at least
      if (what !== 'crew_member') expect(total).toBeGreaterThan(what === 'team_manager' ? 3 : 5);
      else {
        expect([total, lines[0]?.id]).toEqual([1, client.viewer?.personId]);
        expect(shown.find((account) => account.email === email)?.name).toBe(lines[0]?.name);
        const { count } = await one<{ count: number }>(
          owner,
          sql`select count(*)::int as count from employment_version where person_id = ${client.viewer?.personId}
            and superseded_by is null and valid_from <= ${on}::date and valid_until = 'infinity'`,
        );
        expect(count).toBe(1);
      }
    }
    await running.close();
    await owner.end();
  });
});
