import { type AccountRole, type Day, recordSections } from '@gremium/contract';
import { OPEN, type Register, directReports, leaderOf, spokenName } from '@gremium/core';
import { type DemoAccount, hashPassword, many, sql } from '@gremium/server';
import type { Pool } from 'pg';

const PASSWORD = 'vessmar-demo-only';

type Made = DemoAccount & { role: (ids: Map<string, number>) => AccountRole; of?: 'crew' | 'manager' };

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
    // called as the member of a crew that it is of
    name: 'Crew member',
    what: 'crew_member',
    password: PASSWORD,
    role: () => ({ role: 'crew', scope: { type: 'oneself' } }),
    of: 'crew',
  },
  {
    email: 'audit@vessmar.example',
    name: 'Oddny Falk',
    what: 'auditor',
    password: PASSWORD,
    role: () => ({ role: 'auditor', scope: { type: 'all' }, also: sensitive('view') }),
  },
  {
    email: 'wages@vessmar.example',
    name: 'Marju Ots',
    what: 'wages_clerk',
    password: PASSWORD,
    role: (ids) => ({
      role: 'wages_clerk',
      scope: { type: 'entity', legalEntityId: ids.get('Vessmar OÜ') ?? 0 },
    }),
  },
  {
    email: 'manager@vessmar.example',
    // called as the one whose team it is
    name: 'Manager',
    what: 'team_manager',
    password: PASSWORD,
    role: () => ({ role: 'manager', scope: { type: 'reports', depth: 'all' } }),
    of: 'manager',
  },
  {
    email: 'estonia@vessmar.example',
    name: 'Piret Saar',
    what: 'specialist_estonia',
    password: PASSWORD,
    role: () => ({ role: 'specialist', scope: { type: 'country', country: 'EE' } }),
  },
];

export const demoAccounts: DemoAccount[] = ACCOUNTS.map(({ email, name, what, password }) => ({
  email,
  name,
  what,
  password,
}));

type Somebody = { personId: number; name: string };

/** Somebody who works on deck of a vessel on a day, for good, with nothing planned: whose account the crew member's is. */
export const crewMember = (register: Register, on: Day): Somebody | undefined => {
  const jobs = new Set(
    [...register.allOn('job', on)].filter(({ values }) => values.code === 'DECK').map(({ thing }) => thing),
  );
  const found = [...register.allOn('placement', on)].flatMap((row) => {
    const { kind, positionId, employmentId, awayHours, lentHours } = row.values;
    const spell = register.rows('employment', employmentId).at(-1);
    const jobId = register.at('position', positionId, on)?.jobId;
    const isSteady =
      kind === 'primary' && row.until === OPEN && spell?.until === OPEN && awayHours + lentHours === 0;
    return isSteady && jobId !== undefined && jobs.has(jobId) ? spell.values.personId : [];
  });
  const [personId] = found.sort((a, b) => a - b);
  const name = personId === undefined ? undefined : register.rows('person_name', personId).at(-1)?.values;
  return personId === undefined || !name ? undefined : { personId, name: spokenName(name) };
};

/** Somebody who leads four to twelve people on a day, for good: whose account the manager's is. */
export const teamManager = (register: Register, on: Day): Somebody | undefined => {
  for (const { values } of register.allOn('unit', on)) {
    const head = values.headPositionId;
    const leader = head === null ? null : leaderOf(register, head, on);
    if (
      head === null ||
      !leader ||
      leader.placement.values.kind === 'acting' ||
      leader.placement.until !== OPEN
    )
      continue;
    const people = directReports(register, head, on).filter((id) => leaderOf(register, id, on) !== null);
    if (people.length < 4 || people.length > 12) continue;
    const name = register.at('person_name', leader.personId, on);
    if (name) return { personId: leader.personId, name: spokenName(name) };
  }
  return undefined;
};

/** Makes the demo's accounts. */
export const makeAccounts = async (
  pool: Pool,
  people: { crew: Somebody | undefined; manager: Somebody | undefined },
): Promise<void> => {
  const rows = await many<{ name: string; id: number }>(
    pool,
    sql`select name, unit_id as id from unit_version where superseded_by is null
      union all select name, legal_entity_id from legal_entity_version where superseded_by is null`,
  );
  const ids = new Map(rows.map(({ name, id }) => [name, id]));
  const passwordHash = await hashPassword(PASSWORD);
  for (const { email, name, role, of } of ACCOUNTS) {
    const person = of && people[of];
    await many(
      pool,
      sql`insert into account (email, name, password_hash, person_id, roles)
        values (${email}, ${person?.name ?? name}, ${passwordHash}, ${person?.personId ?? null},
          ${JSON.stringify([role(ids)])}::jsonb)`,
    );
  }
};
