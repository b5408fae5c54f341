import { type AccountRole, recordSections } from '@gremium/contract';
import { type DemoAccount, hashPassword, many, sql } from '@gremium/server';
import type { Pool } from 'pg';

const PASSWORD = 'vessmar-demo-only';

type Made = DemoAccount & { role: (units: Map<string, number>) => AccountRole; person?: string };

const branch = (units: Map<string, number>, name: string) =>
  ({ type: 'branch', unitId: units.get(name) ?? 0 }) as const;

// What people declare of themselves is seen by nobody else. Other sensitive sections are seen by whoever is given them by name: here by the administrator and the auditor.
const sensitive = (level: 'view' | 'edit'): NonNullable<AccountRole['also']> =>
  Object.fromEntries(
    Object.values(recordSections).flatMap((section) =>
      section.sensitive && section.name !== 'declared_fact' ? [[section.name, level]] : [],
    ),
  );

const ACCOUNTS: Made[] = [
  {
    email: 'admin@vessmar.example',
    name: 'Tuuli Kaskela',
    what: 'administrator',
    password: PASSWORD,
    role: () => ({ role: 'administrator', scope: { type: 'all' }, also: sensitive('edit') }),
  },
  {
    email: 'fleet@vessmar.example',
    name: 'Astrid Lunde',
    what: 'specialist_fleet',
    password: PASSWORD,
    role: (units) => ({ role: 'specialist', scope: branch(units, 'Fleet') }),
  },
  {
    email: 'tallinn@vessmar.example',
    name: 'Kadri Tamm',
    what: 'harbour_manager',
    password: PASSWORD,
    role: (units) => ({ role: 'manager', scope: branch(units, 'Tallinn Harbour') }),
  },
  {
    email: 'crew@vessmar.example',
    name: 'Urmas Ilves',
    what: 'crew_member',
    password: PASSWORD,
    role: () => ({ role: 'crew', scope: { type: 'oneself' } }),
    person: '1007',
  },
  {
    email: 'audit@vessmar.example',
    name: 'Oddny Falk',
    what: 'auditor',
    password: PASSWORD,
    role: () => ({ role: 'auditor', scope: { type: 'all' }, also: sensitive('view') }),
  },
];

export const demoAccounts: DemoAccount[] = ACCOUNTS.map(({ email, name, what, password }) => ({
  email,
  name,
  what,
  password,
}));

/** Makes the demo's accounts. */
export const makeAccounts = async (pool: Pool): Promise<void> => {
  const rows = await many<{ name: string; id: number }>(
    pool,
    sql`select name, unit_id as id from unit_version where superseded_by is null`,
  );
  const units = new Map(rows.map(({ name, id }) => [name, id]));
  const passwordHash = await hashPassword(PASSWORD);
  for (const { email, name, role, person } of ACCOUNTS)
    await many(
      pool,
      sql`insert into account (email, name, password_hash, person_id, roles)
        values (${email}, ${name}, ${passwordHash},
          (select person_id from person_version where number = ${person ?? ''} and superseded_by is null),
          ${JSON.stringify([role(units)])}::jsonb)`,
    );
};
