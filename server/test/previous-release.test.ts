// A database filled by the release before the catalogue: its dump is a fixture, made by that release over a random history
// of 250 acts with an account of each preset.
import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type AccountRole, type Grant, type Moment, grantsOf, preset } from '@gremium/contract';
import type { Pool } from 'pg';
import { Draft, RowRegister } from '@gremium/core';
import {
  IdSource,
  migrate,
  moveAbsences,
  ownerPool,
  recordEntry,
  transaction,
  verifyJournal,
  name as quoted,
} from '@gremium/server';
import { type Running, many, sql, startServer } from './harness';

const dump = new URL('./fixtures/before-catalogue.sql.gz', import.meta.url);
type Account = { email: string; roles: AccountRole[]; grants: Grant[] };

let url: string;
let owner: Pool;
// the sections there were
let old: string[];
let before: { accounts: Account[]; rows: Record<string, unknown>[] };
let running: Running;

const placements = sql`select v.*, e.number from placement_version v join entry e on e.id = v.recorded_by order by v.id`;

beforeAll(async () => {
  const cluster = process.env['GREMIUM_TEST_CLUSTER'] ?? '';
  const name = `previous_${process.pid}_${Date.now().toString(36)}`;
  const admin = ownerPool(`${cluster}/postgres`, 1);
  await admin.query(`create database ${name}`);
  await admin.end();
  url = `${cluster}/${name}`;
  const filling = ownerPool(url, 1);
  await filling.query(gunzipSync(readFileSync(dump)).toString('utf8'));
  // a slip that somebody had begun before
  await filling.query(
    `insert into public.draft (account_id, key, kind, about, content, kept_at)
     select min(id), 'slipofbefore', 'hire', 'position 1', $1::jsonb, now() from public.account`,
    [
      JSON.stringify({
        positionId: 1,
        firstDay: '2026-12-01',
        given: 'Åse',
        contact: 'aase@new.example',
        amount: '26,4x',
      }),
    ],
  );
  await filling.end();
  owner = ownerPool(url);
  before = {
    accounts: await many<Account>(owner, sql`select email, grants from account order by id`),
    rows: await many(owner, placements),
  };
  old = (
    await many<{ name: string }>(
      owner,
      sql`select replace(relname, '_version', '') as name from pg_class
        where relkind = 'r' and relname like '%\\_version' order by 1`,
    )
  ).map(({ name }) => name);
  expect(old).toHaveLength(19);
  const done = await migrate(owner);
  expect(done.slice(0, 4)).toEqual([
    '0011_catalogue.sql',
    '0012_movements.sql',
    '0013_import_sheets.sql',
    '0014_pictures.sql',
  ]);
  // tables that are new, and those that are wider
  expect(done).toEqual(
    expect.arrayContaining(['own_section', 'own_field', 'person_photo', 'holiday', 'organisation', 'unit']),
  );
  running = await startServer('empty', { url });
});
afterAll(async () => {
  await running.close();
  await owner.end();
});

describe('a database of the previous release', () => {
  test('has the slips that were begun as movements in preparation', async () => {
    const kept = await many(owner, sql`select key, kind, state, input, typed from movement`);
    expect(kept).toEqual([
      {
        key: 'slipofbefore',
        kind: 'hire',
        state: 'draft',
        input: {
          positionId: 1,
          firstDay: '2026-12-01',
          contract: {},
          person: {
            name: { given: 'Åse' },
            contacts: [{ kind: 'email', value: 'aase@new.example' }],
          },
        },
        typed: { 'pay.0.amount': '26,4x' },
      },
    ]);
    expect(await many(owner, sql`select 1 from draft where kind <> 'edit'`)).toEqual([]);
  });

  test('keeps every row, and its journal verifies', async () => {
    expect(before.rows.length).toBeGreaterThan(50);
    // columns that came since are empty in rows from before
    const since = {
      kept_hours: null,
      cost_centre_id: null,
      above_reason: null,
      review_on: null,
    };
    expect(await many(owner, placements)).toEqual(before.rows.map((row) => ({ ...row, ...since })));
    const { faults, entries, rows } = await verifyJournal(owner);
    expect(faults).toEqual([]);
    expect([entries, rows].every((count) => count > 100)).toBe(true);
    // brought up to date again, nothing is to be done
    expect(await migrate(owner)).toEqual([]);
  });

  test('knows of each entry which sections it touched', async () => {
    for (const name of old) {
      const [found] = await many<{ wrong: number }>(
        owner,
        sql`select count(*)::int as wrong from entry e where (${name} = any(e.sections)) <> exists (
          select from ${quoted(`${name}_version`)} v where v.recorded_by = e.id or v.superseded_by = e.id)`,
      );
      expect([name, found!.wrong]).toEqual([name, 0]);
    }
  });

  test('has accounts that may do exactly what they might, by roles that follow the catalogue', async () => {
    const now = await many<Account>(owner, sql`select email, roles, grants from account order by id`);
    expect(
      now.map(({ email, roles }) => `${email.split('@')[0]} ${roles.map(({ role }) => role).join()}`),
    ).toEqual([
      'admin administrator',
      'specialist specialist',
      'auditor auditor',
      'manager manager',
      'crew crew',
      'own ',
    ]);
    now.forEach((account, i) => {
      const without = grantsOf(account, preset).map((grant) => ({
        ...grant,
        // acts that came since
        acts: grant.acts.filter((act) => act !== 'above_limit' && act !== 'declared_figures').sort(),
        sections: Object.fromEntries(Object.entries(grant.sections).filter(([name]) => old.includes(name))),
      }));
      const was = before.accounts[i]!.grants.map((grant) => ({ ...grant, acts: [...grant.acts].sort() }));
      expect(without).toEqual(was);
    });
  });

  test('has an absence for whatever is away, in one entry, once; its journal verifies', async () => {
    // places of before said themselves that somebody is away: some do from here on, wholly or in part
    const rows = await many<Record<string, unknown>>(
      owner,
      sql`select v.*, valid_from::text as "from", valid_until::text as until, recorded_by as entry
        from placement_version v where superseded_by is null and kind = 'primary' and hours > lent_hours order by id limit 6`,
    );
    const register = new RowRegister(
      rows.map(({ id, lineage, placement_id, from, until, entry, ...columns }) => {
        const named = Object.entries(columns).map(([name, value]) => [
          name.replace(/_([a-z])/g, (_, letter: string) => letter.toUpperCase()),
          value,
        ]);
        const values = Object.fromEntries(
          named.filter(([name]) => preset.section('placement').metas.has(name as string)),
        );
        return {
          id,
          lineage,
          section: 'placement',
          thing: placement_id,
          from,
          until,
          values,
          entry,
        } as never;
      }),
    );
    const newId = await new IdSource().reserve(owner, 50);
    const draft = new Draft(register, newId, newId());
    const held = [...register.all('placement')];
    held.forEach(({ thing, from, until, values }, i) => {
      const away = i % 2 === 0 ? values.hours - values.lentHours : 100;
      draft.set('placement', thing, { from, until, values: { awayHours: away } });
    });
    const head = { id: draft.entry, now: '2026-11-22T08:00:00.000Z' as Moment, account: 'admin' };
    await transaction(owner, (tx) => recordEntry(tx, { ...head, kind: 'edit', reason: null }, draft.change));
    const said = sql`select p.away_hours as away, p.hours - p.lent_hours as here,
        coalesce(a.hours, p.hours - p.lent_hours) as absent, l.code
      from placement_version p
      left join absence_version a on a.superseded_by is null and a.employment_id = p.employment_id
        and a.valid_from <= p.valid_from and p.valid_until <= a.valid_until
      left join list_entry_version l on l.list_entry_id = a.kind_id and l.superseded_by is null
      where p.superseded_by is null and p.kind = 'primary' and p.away_hours > 0`;
    const before = await many<{ away: number; absent: number | null; code: string | null }>(owner, said);
    expect(before.length).toBeGreaterThan(3);
    expect(before.every(({ code }) => code === null)).toBe(true);
    expect(await moveAbsences(owner, '2026-11-23T08:00:00.000Z' as Moment)).toBe(before.length);
    const after = await many<{ away: number; absent: number | null; code: string | null }>(owner, said);
    expect(after.map(({ away, code }) => [away, code])).toEqual(
      after.map(({ absent }) => [absent, 'BEFORE']),
    );
    expect(await moveAbsences(owner, '2026-11-23T08:00:01.000Z' as Moment)).toBe(0);
    expect((await verifyJournal(owner)).faults).toEqual([]);
  });

  test('is served', async () => {
    const reply = await fetch(`${running.address}/api/entrance`);
    expect(reply.status).toBe(200);
  });
});
