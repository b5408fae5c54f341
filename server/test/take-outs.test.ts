// What is taken out: for whom, how long, at which entry; and a part of the register built elsewhere from its files.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type SectionName, type TakeOutLayout, type ViewDefinition, endpoints } from '@gremium/contract';
import { parse } from 'csv-parse/sync';
import { stringify } from 'csv-stringify/sync';
import JSZip from 'jszip';
import {
  type Client,
  NOW,
  type Running,
  asDemo,
  copyDatabase,
  many,
  one,
  settled,
  spawnServer,
  asAccount,
  sql,
  startServer,
  takeOut,
  upload,
} from './harness';
import { codes, rowsOf } from './importing';
import { clockFrom, tidy } from '@gremium/server';

let running: Running;
let admin: Client;
let auditor: Client;
beforeAll(async () => {
  running = await startServer('demo');
  [admin, auditor] = await Promise.all([asDemo(running.address, 'admin'), asDemo(running.address, 'audit')]);
});
afterAll(() => running.close());

const viewOf = (subject: string, condition = '', fields = [`${subject}.inEffectFrom`]): ViewDefinition => ({
  subject: subject as SectionName,
  columns: fields.map((field) => ({ field })),
  condition,
  order: [],
  groups: [],
});
const partOf = (title: string, layout: TakeOutLayout, view: ViewDefinition) => ({ title, layout, view });
// Somebody who may do everything in a register that is empty.
const founderOf = async (empty: Running): Promise<Client> => {
  const founder = await asAccount(empty, 'founder@vessmar.example', []);
  await many(
    empty.owner,
    sql`update account set roles = '[{"role": "administrator", "scope": {"type": "all"}}]'`,
  );
  return founder;
};
const linesOf = (content: Buffer | string): string[][] => parse(content, { bom: true }) as string[][];
const fileOf = (lines: readonly (readonly string[])[]) => stringify(lines as string[][]);

describe('for whom', () => {
  const people = partOf('People', 'view', viewOf('person_name', '', ['person_name.name', 'pay.amount']));

  test('only who took it out fetches it; who reads the journal sees that it was, with filter and rows; others see nothing', async () => {
    const view = { ...people.view, condition: 'person_name.family == "Saar"' };
    const { line, content } = await takeOut(admin, {
      title: 'Saar',
      parts: [{ ...people, view }],
      format: 'csv',
    });
    const { count } = await one<{ count: number }>(
      running.owner,
      sql`select count(*)::int as count from person_name_version where family = 'Saar' and superseded_by is null
        and valid_from <= '2026-11-23' and valid_until > '2026-11-23'`,
    );
    expect(line).toMatchObject({
      rows: count,
      parts: [{ filter: view.condition, rows: count }],
      own: true,
      until: '2026-12-23',
    });
    expect(line.bytes).toBe(content.length);
    const { takeOuts } = await auditor.call(endpoints.takeOuts, { query: {} });
    expect(takeOuts[0]).toMatchObject({ id: line.id, by: 'Tuuli Kaskela', own: false });
    expect((await auditor.refusal(endpoints.takeOutFile, { params: { id: line.id } })).codes).toEqual([
      'take_out_others',
    ]);
    const crew = await asDemo(running.address, 'crew');
    expect((await crew.call(endpoints.takeOuts, { query: {} })).total).toBe(0);
    expect((await crew.refusal(endpoints.takenOut, { params: { id: line.id } })).codes).toEqual([
      'record_hidden',
    ]);
    expect((await crew.refusal(endpoints.takeOutFile, { params: { id: line.id } })).codes).toEqual([
      'record_hidden',
    ]);
  });

  test('with other rights than then it is not fetched; deleted, or after thirty days, it is not there, and its line is', async () => {
    const { line } = await takeOut(auditor, { title: 'All', parts: [people], format: 'xlsx' });
    const { roles } = await one<{ roles: object }>(
      running.owner,
      sql`select roles from account where email = 'audit@vessmar.example'`,
    );
    const fetched = () => auditor.refusal(endpoints.takeOutFile, { params: { id: line.id } });
    const give = (all: object) =>
      many(
        running.owner,
        sql`update account set roles = ${JSON.stringify(all)}::jsonb where email = 'audit@vessmar.example'`,
      );
    await give([{ role: 'manager', scope: { type: 'all' } }]);
    expect((await fetched()).codes).toEqual(['take_out_rights']);
    await give(roles);
    await many(running.owner, sql`update take_out set at = at - interval '31 days' where id = ${line.id}`);
    await tidy({ pool: running.pool, clock: clockFrom(NOW) });
    const kept = await one<{ state: string; pieces: number }>(
      running.owner,
      sql`select state, (select count(*)::int from take_out_part where take_out_id = t.id) as pieces from take_out t where id = ${line.id}`,
    );
    expect(kept).toEqual({ state: 'gone', pieces: 0 });
  });

  test('what is not there, or not theirs, is refused at once, with where it stands', async () => {
    const wrong = { ...people, view: { ...people.view, condition: 'person_name.shoes == 2' } };
    const refused = await admin.refusal(endpoints.takeOut, {
      body: { title: '', parts: [wrong], format: 'csv' } as never,
    });
    expect(refused.codes).toEqual(['field_unknown']);
    const crew = await asDemo(running.address, 'crew');
    const pay = partOf('Pay', 'import', viewOf('grade_range'));
    expect(
      (await crew.refusal(endpoints.takeOut, { body: { title: '', parts: [pay], format: 'csv' } as never }))
        .codes,
    ).toEqual(['subject_hidden']);
    const units = partOf('Units', 'people', viewOf('unit'));
    expect(
      (
        await admin.refusal(endpoints.takeOut, {
          body: { title: '', parts: [units], format: 'csv' } as never,
        })
      ).codes,
    ).toEqual(['subject_unknown']);
  });
});

describe('work that breaks off', () => {
  test('of a process that fell silent it is taken over, as after its own entry, whatever was recorded since', async () => {
    const url = await copyDatabase('demo');
    const first = await startServer('demo', { url });
    const client = await asDemo(first.address, 'admin');
    const { id: known } = (
      await takeOut(client, {
        title: 'Units',
        parts: [partOf('Units', 'view', viewOf('unit', '', ['unit.name']))],
        format: 'csv',
      })
    ).line;
    // as if that process had been killed in the midst of it: half a file, nobody at work
    await many(
      first.owner,
      sql`update take_out set state = 'waiting', work = 'write', worker = gen_random_uuid(), beat = clock_timestamp() - interval '1 hour'
        where id = ${known}`,
    );
    await many(
      first.owner,
      sql`update take_out_part set content = 'half'::bytea where take_out_id = ${known}`,
    );
    const [unit] = await many<{ id: number; name: string }>(
      first.owner,
      sql`select unit_id as id, name from unit_version where superseded_by is null and name = 'Harbour Office'`,
    );
    const renaming = await upload(client, 'rename.csv', `id,name\n${unit!.id},Renamed meanwhile\n`, 'unit');
    await settled(client, renaming);
    await client.call(endpoints.writeImport, { params: { id: renaming }, body: { rows: 'all' } });
    expect((await settled(client, renaming)).state).toBe('written');
    for (let i = 0; i < 200; i++) {
      const line = await client.call(endpoints.takenOut, { params: { id: known } });
      if (!line.work) break;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    const text = await (await client.send(endpoints.takeOutFile, { params: { id: known } })).text();
    expect(text).toContain('Harbour Office');
    expect(text).not.toContain('Renamed meanwhile');
    expect(text).not.toContain('half');
    await first.close();
  });
});

describe('kill -9', () => {
  const waited = async (client: Client, id: number) => {
    for (let i = 0; i < 600; i++) {
      const line = await client.call(endpoints.takenOut, { params: { id } });
      if (!line.work) return line;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error('it is still being taken out');
  };

  test('while a file is written, and while several are read: another process goes on, whole or not at all', async () => {
    process.env['GREMIUM_IMPORT_TAKEOVER_SECONDS'] = '2';
    const url = await copyDatabase('demo');
    const first = await spawnServer(url);
    const one = await asDemo(first.address, 'admin');
    const names = ['person_name', 'contact', 'pay', 'placement', 'contract', 'position'];
    const parts = names.map((name) => partOf(name, 'view', viewOf(name)));
    const { id } = await one.call(endpoints.takeOut, {
      body: { title: 'Much', parts, format: 'xlsx', language: 'en' },
    });
    for (let i = 0; i < 500; i++) {
      const { work } = await one.call(endpoints.takenOut, { params: { id } });
      if (work && work.done > 0) break;
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
    await first.kill();
    const second = await spawnServer(url);
    const two = await asDemo(second.address, 'admin');
    const line = await waited(two, id);
    expect([line.state, line.parts.map(({ rows }) => (rows ?? 0) > 0)]).toEqual([
      'ready',
      names.map(() => true),
    ]);
    const file = await two.send(endpoints.takeOutFile, { params: { id } });
    const zip = await JSZip.loadAsync(Buffer.from(await file.arrayBuffer()));
    expect(Object.keys(zip.files).sort()).toEqual(names.map((name) => `${name}.xlsx`).sort());

    const packed = new JSZip();
    for (let i = 0; i < 12; i++)
      packed.file(
        `jobs ${i}.csv`,
        `code;name;title;fte\n${Array.from({ length: 200 }, (_, j) => `K${i}-${j};Job ${j};Job;1`).join('\n')}\n`,
      );
    const set = await upload(two, 'set.zip', await packed.generateAsync({ type: 'nodebuffer' }), 'any');
    for (let i = 0; i < 300; i++) {
      const { parts: files } = await two.call(endpoints.import, { params: { id: set } });
      if (files.length > 2) break;
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
    await second.kill();
    const third = await spawnServer(url);
    const three = await asDemo(third.address, 'admin');
    const found = await settled(three, set);
    expect([found.trouble, found.parts.length, found.counts?.new]).toEqual([[], 12, 2400]);
    await third.kill();
  }, 180_000);
});

describe('people in the layout of a file of people', () => {
  test('all of them taken out and taken in again are the same; one email changed is one changed', async () => {
    const part = partOf(
      'People',
      'people',
      viewOf('person_name', 'employment.status in ["at_work", "away"]'),
    );
    const { content, line } = await takeOut(admin, { title: 'People', parts: [part], format: 'csv' });
    const found = await settled(admin, await upload(admin, 'people.csv', content));
    expect([(await rowsOf(admin, found.id, 'refused')).slice(0, 5).map(codes), found.counts]).toEqual([
      [],
      { read: line.rows, new: 0, changed: 0, same: line.rows, refused: 0, left_out: 0 },
    ]);
    const lines = linesOf(content);
    const at = (lines[0] as string[]).indexOf('Email');
    (lines[7] as string[])[at] = 'someone.else@vessmar.example';
    const one = await settled(admin, await upload(admin, 'people.csv', fileOf(lines)));
    expect(one.counts).toMatchObject({ changed: 1, refused: 0 });
  }, 120_000);
});

describe('Harbours, built elsewhere', () => {
  const HERE = 'unit.path.contains("Harbours")';
  // who sits above the limit of a place by right is placed there by the right of whoever places them: no file does
  const LEADER = /(Aino Lehtonen .*) \| Maija Turunen \|/;
  const PLACED = `${HERE} && employment.status in ["at_work", "away"] && position.occupancy != "over_held"`;
  const shown = async (
    client: Client,
    subject: string,
    fields: string[],
    condition: string,
  ): Promise<string[]> => {
    const view = { ...viewOf(subject, condition, fields) };
    const { rows } = await (async () => {
      const all: { cells: unknown[] }[] = [];
      for (let offset = 0; ; offset += 500) {
        const page = await client.call(endpoints.runReport, {
          body: { view, limit: 500, offset, language: 'en' },
        });
        all.push(...page.rows);
        if (all.length >= page.matched) return { rows: all };
      }
    })();
    return rows.map(({ cells }) => cells.map((cell) => String(cell)).join(' | ')).sort();
  };

  test('a zip of lists, places, jobs, units, positions and people: equal on a day by code, heads and managers too', async () => {
    const parts = [
      partOf('a people', 'people', viewOf('person_name', PLACED)),
      partOf('b positions', 'anew', viewOf('position', HERE)),
      partOf('c limits', 'anew', viewOf('position_limits', HERE)),
      partOf('d units', 'anew', viewOf('unit', HERE)),
      ...['job', 'grade', 'location', 'legal_entity', 'cost_centre', 'list_entry'].map((name) =>
        partOf(`e ${name}`, 'anew', viewOf(name)),
      ),
    ];
    const { content, line } = await takeOut(admin, { title: 'Harbours', parts, format: 'csv' });
    expect(line.format).toBe('zip');
    const zip = await JSZip.loadAsync(content);
    const read = async (name: string) =>
      linesOf(await (zip.file(`${name}.csv`) as JSZip.JSZipObject).async('string'));
    // the top of what is built has nothing above it
    const units = await read('d units');
    const above = (units[0] as string[]).indexOf('Unit above');
    const top = units.find((cells) => cells.includes('Harbours')) as string[];
    top[above] = '';
    zip.file('d units.csv', fileOf(units));
    const people = await read('a people');
    const [number, manager] = [people[0]!.indexOf('Person number'), people[0]!.indexOf('Manager')];
    const here = new Set(people.map((cells) => cells[number]));
    for (const cells of people.slice(1)) if (!here.has(cells[manager])) cells[manager] = '';
    zip.file('a people.csv', fileOf(people));
    const jobs = await read('e job');
    const branch = jobs[0]!.indexOf('Only in the branch of');
    if (branch >= 0) for (const cells of jobs.slice(1)) cells[branch] = '';
    zip.file('e job.csv', fileOf(jobs));

    const empty = await startServer('empty');
    const founder = await founderOf(empty);
    const id = await upload(founder, 'Harbours.zip', await zip.generateAsync({ type: 'nodebuffer' }), 'any');
    await settled(founder, id);
    const found = await founder.call(endpoints.import, { params: { id } });
    const ofPeople = found.parts.find(({ subject }) => subject === 'people');
    await founder.call(endpoints.arrangeImport, { params: { id: ofPeople!.id }, body: { newNumbers: true } });
    const checked = await settled(founder, id);
    const wrong = await Promise.all(
      found.parts.map(async (part) => [
        part.fileName,
        (await rowsOf(founder, part.id, 'refused'))
          .slice(0, 3)
          .map((row) => [row.row, ...(codes(row) ?? [])]),
      ]),
    );
    expect([checked.trouble, wrong.filter(([, rows]) => (rows as unknown[]).length > 0)]).toEqual([[], []]);
    await founder.call(endpoints.writeImport, {
      params: { id },
      body: {
        rows: 'all',
        words: Object.fromEntries(checked.warnings.map(({ problem }) => [problem.code, 'as agreed'])),
      },
    });
    const done = await settled(founder, id);
    expect([done.trouble, done.state]).toEqual([[], 'written']);

    const compared: [string, string[], string][] = [
      ['unit', ['unit.code', 'unit.name', 'unit.headPositionId', 'unit.kindId'], HERE],
      [
        'position',
        [
          'position.code',
          'position.title',
          'position.unitId',
          'position.jobId',
          'position.locationId',
          'position_limits.places',
        ],
        HERE,
      ],
      [
        'person_name',
        [
          'person.number',
          'person_name.name',
          'person.birthDate',
          'position.code',
          'employment.begins',
          'placement.manager',
          'pay.amount',
          'contract.fixedUntil',
        ],
        PLACED,
      ],
    ];
    for (const [subject, fields, condition] of compared) {
      const there = await shown(founder, subject, fields, condition);
      const here = await shown(admin, subject, fields, condition);
      expect(there.length).toBeGreaterThan(40);
      // whoever leads all of it reports to somebody who is not here
      const led = subject === 'person_name' ? here.map((text) => text.replace(LEADER, '$1 | null |')) : here;
      expect([subject, there]).toEqual([subject, led]);
    }
    await empty.close();
  }, 240_000);
});
