// What HR does beside hiring and transferring: units made and moved, positions, leaving, coming by job and coming back, a
// record with one row more and one less; each done as a person does it, and undone.
import { describe, expect, test } from '@jest/globals';
import { endpoints } from '@gremium/contract';
import type { HTTPRequest } from 'puppeteer-core';
import { many, newcomer, one, sql, vacantPosition } from '../server/test/harness';
import { goTo, kept, press, reload, sees } from './browser';
import { type Story, story } from './story';

let running: Story['running'];
let page: Story['page'];
let admin: Story['admin'];
story((told) => ({ running, page, admin } = told));

const open = async (path: string): Promise<void> => {
  await goTo(page, `${running.address}${path}`);
};
const unitNamed = async (name: string): Promise<number> =>
  (
    await one<{ id: number }>(
      running.owner,
      sql`select unit_id as id from unit_version where superseded_by is null and name = ${name} order by valid_from desc limit 1`,
    )
  ).id;
/** The input of the slip or of a section with a label. */
const inputOf = async (label: string): Promise<string> => {
  const id = await page.waitForFunction(
    (wanted: string) =>
      [...document.querySelectorAll('.slip label')]
        .find((one) => one.textContent === wanted)
        ?.getAttribute('for'),
    { timeout: 120_000 },
    label,
  );
  return `[id="${String(await id.jsonValue())}"]`;
};
const type = async (label: string, text: string): Promise<void> => {
  const input = await inputOf(label);
  await page.click(input);
  await page.keyboard.down('Control');
  await page.keyboard.press('a');
  await page.keyboard.up('Control');
  await page.keyboard.type(text);
};
const day = async (label: string, text: string): Promise<void> => {
  await type(label, text);
  await page.keyboard.press('Enter');
};
/** Chooses from a list what begins so. */
const choose = async (label: string, text: string): Promise<void> => {
  const input = await inputOf(label);
  await page.click(input);
  await page.keyboard.type(text);
  await sees(page, text, '.ant-select-dropdown:not(.ant-select-dropdown-hidden) .ant-select-item-option');
  await page.keyboard.press('Enter');
};
const complete = async (act: string): Promise<void> => {
  await sees(page, 'Nobody is asked', '.slipfoot');
  await press(page, act);
  await page.waitForSelector('.sliphead[role=status]');
};
const undoHere = async (count: number): Promise<void> => {
  await press(page, 'Undo…');
  await sees(page, count === 1 ? 'One entry' : `${count} entries`, '.slip');
  await press(page, count === 1 ? 'Undo this entry' : `Undo ${count} entries`);
  await sees(page, 'Undone', '.sliphead');
  await press(page, 'Close the slip');
};
/** Depth of units in the outline on a day, by their names; those that are not unfolded are left out. */
const outlineOn = async (on: string, unfolded: readonly number[]): Promise<Map<string, number>> => {
  await open(`/structure/outline?on=${on}&turned=${unfolded.join('.')}`);
  await page.waitForSelector('.top-unit');
  const { units } = await admin.call(endpoints.outline, { query: { on: on as never } });
  return new Map(units.map(({ name, depth }) => [name, depth]));
};
const isShown = (name: string): Promise<boolean> =>
  page.$$eval('.tree th a', (links, wanted) => links.some((link) => link.textContent === wanted), name);

const hire = async (positionId: number, family: string) =>
  admin.call(endpoints.move, {
    body: { kind: 'hire', input: { person: newcomer(family), firstDay: '2026-11-01' as never, positionId } },
  });

describe('the structure', () => {
  test('three units are made, one moves with its branch, a ring is refused naming the path; the outline on three dates', async () => {
    const harbour = await unitNamed('Tallinn Harbour');
    const larvik = await unitNamed('Larvik Harbour');
    const above = await unitNamed('Harbours');
    await kept(page, 'units', async () => {
      for (const [name, parent] of [
        ['Quiet Berths', 'Tallinn Harbour'],
        ['Inner Berths', 'Quiet Berths'],
        ['Innermost Berths', 'Inner Berths'],
      ] as const) {
        await open(`/structure/units/${await unitNamed(parent)}?on=2026-12-01`);
        await press(page, 'New unit below');
        await type('Name', name);
        await choose('Kind', 'Team');
        await complete('Complete new unit now, from 1 Dec 2026');
        await sees(page, 'In effect from 1 Dec 2026', '.slip');
        await press(page, 'Close the slip');
        await sees(page, name, '.recordbody');
      }
      const quiet = await unitNamed('Quiet Berths');
      const inner = await unitNamed('Inner Berths');
      await open(`/structure/units/${quiet}?on=2027-03-01`);
      await page.keyboard.press('e');
      await choose('Below', 'Larvik Harbour');
      await sees(page, 'Moves along: units 3', '.effects');
      await complete('Complete change now, from 1 Mar 2027');
      await press(page, 'Close the slip');
      await sees(page, 'Larvik Harbour', '.recordhead');

      // a ring: the slip says why, with the path, and nothing can be completed
      await page.keyboard.press('e');
      await choose('Below', 'Innermost Berths');
      await sees(page, 'A unit cannot stand below itself', '.slip .check.error');
      const said = await page.$eval('.slip .check.error', (line) => line.textContent ?? '');
      for (const name of ['Quiet Berths', 'Inner Berths', 'Innermost Berths']) expect(said).toContain(name);
      expect(await page.$('.slipfoot .ant-btn-primary[disabled]')).not.toBeNull();
      await press(page, 'Discard');

      const turned = [harbour, larvik, above, quiet, inner];
      const before = await outlineOn('2026-11-23', turned);
      expect([before.has('Quiet Berths'), await isShown('Quiet Berths')]).toEqual([false, false]);
      const made = await outlineOn('2026-12-01', turned);
      const moved = await outlineOn('2027-03-01', turned);
      expect(await isShown('Innermost Berths')).toBe(true);
      // one below Tallinn's harbour, one below Larvik's: of the same depth, with the branch below it
      for (const seen of [made, moved])
        expect(['Quiet Berths', 'Inner Berths', 'Innermost Berths'].map((name) => seen.get(name))).toEqual([
          3, 4, 5,
        ]);
      const { units } = await admin.call(endpoints.outline, { query: { on: '2027-03-01' as never } });
      expect(units.find(({ id }) => id === quiet)?.parentId).toBe(larvik);
      const { units: earlier } = await admin.call(endpoints.outline, {
        query: { on: '2027-02-28' as never },
      });
      expect(earlier.find(({ id }) => id === quiet)?.parentId).toBe(harbour);
    });
  });
});

describe('leaving', () => {
  test('of somebody with two reports: bridged, then undone', async () => {
    const harbour = await unitNamed('Tallinn Harbour');
    const act = (input: object, kind: string) =>
      admin.call(endpoints.move, { body: { kind, input } as never });
    const kinds = await many<{ id: number; code: string }>(
      running.owner,
      sql`select list_entry_id as id, code from list_entry_version where superseded_by is null and code in ('TEAM', 'RESIGNED')`,
    );
    const idOf = (code: string) => kinds.find((kind) => kind.code === code)!.id;
    const jobId = (
      await one<{ id: number }>(
        running.owner,
        sql`select job_id as id from job_version where superseded_by is null and code = 'ASSIST' limit 1`,
      )
    ).id;
    const firstDay = '2026-10-01';
    const unit = await act(
      { firstDay, name: 'Two reports', kindId: idOf('TEAM'), parentId: harbour },
      'new_unit',
    );
    const make = async (title: string) =>
      (await act({ firstDay, unitId: unit.unitId, jobId, title }, 'new_position')).positionId as number;
    const head = await make('Their lead');
    await act({ unitId: unit.unitId, firstDay, headPositionId: head }, 'change_unit');
    const leader = await hire(head, 'Lead');
    for (const title of ['One', 'Two']) await hire(await make(title), title);
    await kept(page, 'leaving', async () => {
      await open(`/people/${leader.personId}`);
      await page.keyboard.press('l');
      await choose('Reason', 'Resigned');
      await day('Last day', '31 Jan 2027');
      await choose('The position then', 'on hold');
      await sees(page, 'Reported to it: 2', '.effects');
      await complete('Complete leaving now, last day 31 Jan 2027');
      await sees(page, 'Last day 31 Jan 2027', '.sliphead');
      // the result holds when the page is read again, and knows when it was undone
      await reload(page);
      await sees(page, 'Saved', '.sliphead');
      const result = page.url();
      await press(page, 'Close the slip');
      await sees(page, 'last day 31 Jan 2027', '.recordhead');
      await open(`/structure/positions/${head}?on=2027-02-01`);
      await sees(page, 'on hold', '.recordhead .standing');
      await goTo(page, result);
      await undoHere(1);
      await page.waitForFunction(
        () => !document.querySelector('.recordhead')?.textContent?.includes('last day 31 Jan 2027'),
      );
      await goTo(page, result);
      await sees(page, 'Undone by entry', '.sliphead');
      await open(`/structure/positions/${head}?on=2027-02-01`);
      await sees(page, 'in force', '.recordhead .standing');
    });
    expect(idOf('RESIGNED')).toBeGreaterThan(0);
  });

  test('after a hire by job: its position closes; and the person comes back with the old number', async () => {
    const positionId = await vacantPosition(running, admin, '%Larvik%');
    const { code } = await one<{ code: string }>(
      running.owner,
      sql`select code from position_version where position_id = ${positionId} and superseded_by is null limit 1`,
    );
    const [free] = await many<{ id: number; name: string }>(
      running.owner,
      sql`select unit_id as id, name from unit_version u where superseded_by is null and hires_need_position = false
        and valid_until = 'infinity' and not exists (select from unit_version b where b.parent_id = u.unit_id and b.superseded_by is null) limit 1`,
    );
    await kept(page, 'by-job', async () => {
      await open(`/structure/units/${free!.id}?on=2026-12-01`);
      await sees(page, 'hires by job', '.recordhead');
      await page.keyboard.press('h');
      await type('Given name', 'Job');
      await type('Family name', 'Hired');
      await type('Email or phone', 'job.hired@new.example');
      await choose('Job', 'Assistant');
      await complete('Complete hire now, from 1 Dec 2026');
      const made =
        (await page.$eval('.ways a[href*="/structure/positions/"]', (link) => link.getAttribute('href'))) ??
        '';
      const [path] = made.split('?');
      await press(page, 'Close the slip');
      await sees(page, 'Job Hired', '.recordbody');
      const person = await one<{ id: number; number: string }>(
        running.owner,
        sql`select n.person_id as id, p.number from person_name_version n join person_version p on p.person_id = n.person_id and p.superseded_by is null
          where n.family = 'Hired' and n.given = 'Job' and n.superseded_by is null`,
      );
      await open(`/people/${person.id}?on=2026-12-01`);
      await press(page, 'Record leaving');
      await choose('Reason', 'Resigned');
      await day('Last day', '31 Mar 2027');
      await complete('Complete leaving now, last day 31 Mar 2027');
      await press(page, 'Close the slip');
      await open(`${path}?on=2027-03-31`);
      await sees(page, 'in force', '.recordhead .standing');
      await open(`${path}?on=2027-04-01`);
      await sees(page, 'closed', '.recordhead .standing');

      await open(`/people/${person.id}?on=2027-06-01`);
      await sees(page, 'left', '.recordhead .standing');
      await press(page, 'Rehire');
      await choose('Into which position', code);
      await complete('Complete rehire now, from 1 Jun 2027');
      await press(page, 'Close the slip');
      await sees(page, `No. ${person.number}`, '.recordhead');
      await sees(page, 'at work', '.recordhead .standing');
    });
  });
});

describe('a record', () => {
  test('gets a second phone and loses an address in one entry; the save asks for nothing else; undone', async () => {
    const hired = await hire(await vacantPosition(running, admin), 'Phoned');
    const personId = hired.personId as number;
    const create = (kind: string, value: string) => ({
      section: 'contact' as const,
      edit: {
        mode: 'create' as const,
        from: '-infinity' as const,
        values: { personId, kind, use: 'private', value, primary: false },
      },
    });
    await admin.call(endpoints.saveEdits, {
      body: { edits: [create('phone', '+372 555 0101'), create('address', 'Pikk 1, Tallinn')] },
    });
    await kept(page, 'phone', async () => {
      await open(`/people/${personId}`);
      await press(page, 'Add: Contact');
      await chooseIn('.block.editing tr:nth-child(1)', 'phone');
      await chooseIn('.block.editing tr:nth-child(2)', 'work');
      await page.click('.block.editing tr:nth-child(3) input');
      await page.keyboard.type('+372 555 0202');
      await press(page, 'End Contact: address, private');
      await sees(page, '2', '.savebar .figure');
      const asked: string[] = [];
      const note = (request: HTTPRequest) => {
        const { pathname } = new URL(request.url());
        // what is being written is kept, and looked at, as it is typed, which is no part of the save
        const isWriting =
          pathname.startsWith('/api/drafts') || request.postData()?.includes('"preview":true') === true;
        if (pathname.startsWith('/api/') && !isWriting) asked.push(`${request.method()} ${pathname}`);
      };
      page.on('request', note);
      await press(page, 'Save all as one entry');
      await page.waitForFunction(() => !document.querySelector('.savebar'));
      await sees(page, '+372 555 0202', '.recordbody');
      // whatever would be asked for anew is asked for by now
      await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => setTimeout(done))));
      page.off('request', note);
      expect(asked).toEqual(['POST /api/edits']);
      await sees(page, 'until 23 Nov 2026', '.recordbody');
      const entry = await one<{ number: number }>(
        running.owner,
        sql`select max(number)::int as number from entry`,
      );
      await open(`/people/${personId}?undo=${entry.number}`);
      await sees(page, 'One entry', '.slip');
      await press(page, 'Undo this entry');
      await sees(page, 'is undone', '.slip');
      await press(page, 'Close the slip');
      await page.waitForFunction(() => !document.body.textContent?.includes('+372 555 0202'));
    });
    const values = await many<{ value: string }>(
      running.owner,
      sql`select value from contact_version where person_id = ${personId} and superseded_by is null and valid_until = 'infinity' order by value collate "C"`,
    );
    expect(values.map(({ value }) => value)).toEqual([
      '+372 555 0101',
      'Pikk 1, Tallinn',
      expect.stringContaining('@'),
    ]);
  });
});

const chooseIn = async (row: string, text: string): Promise<void> => {
  await page.click(`${row} .ant-select`);
  await sees(page, text, '.ant-select-dropdown:not(.ant-select-dropdown-hidden) .ant-select-item-option');
  await page.keyboard.type(text);
  await page.keyboard.press('Enter');
};
