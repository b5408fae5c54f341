import { type Grant, presets } from '@gremium/contract';
import { type DemoAccount, hashPassword, many, sql } from '@gremium/server';
import type { Pool } from 'pg';

const PASSWORD = 'vessmar-demo-only';

type Made = DemoAccount & { grants: (units: Map<string, number>) => Grant[]; person?: string };

const branch = (units: Map<string, number>, name: string): number => units.get(name) ?? 0;

const ACCOUNTS: Made[] = [
  {
    email: 'admin@vessmar.example',
    name: 'Tuuli Kaskela',
    what: 'administrator',
    password: PASSWORD,
    grants: presets.administrator,
  },
  {
    email: 'fleet@vessmar.example',
    name: 'Astrid Lunde',
    what: 'specialist_fleet',
    password: PASSWORD,
    grants: (units) => presets.specialist(branch(units, 'Fleet')),
  },
  {
    email: 'tallinn@vessmar.example',
    name: 'Kadri Tamm',
    what: 'harbour_manager',
    password: PASSWORD,
    grants: (units) => presets.manager(branch(units, 'Tallinn Harbour')),
  },
  {
    email: 'crew@vessmar.example',
    name: 'Maren Solbakk',
    what: 'crew_member',
    password: PASSWORD,
    grants: presets.crew,
    person: '1007',
  },
  {
    email: 'audit@vessmar.example',
    name: 'Oddny Falk',
    what: 'auditor',
    password: PASSWORD,
    grants: presets.auditor,
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
  for (const { email, name, grants, person } of ACCOUNTS)
    await many(
      pool,
      sql`insert into account (email, name, password_hash, person_id, grants)
        values (${email}, ${name}, ${passwordHash},
          (select person_id from person_version where number = ${person ?? ''} and superseded_by is null),
          ${JSON.stringify(grants(units))}::jsonb)`,
    );
};
