// A transfer for a time as a person does it: refused, corrected, started late, ended early, undone with all that followed.
import { expect, test } from '@jest/globals';
import { endpoints } from '@gremium/contract';
import { many, newcomer, sql, vacantPosition } from '../server/test/harness';
import { goTo, kept, press, sees } from './browser';
import { completeSlip, pickIn, typeIn } from './in-slip';
import { type Story, story } from './story';

let running: Story['running'];
let page: Story['page'];
let admin: Story['admin'];
story((told) => ({ running, page, admin } = told));

const type = (field: string, text: string) => typeIn(page, field, text);
const complete = () => completeSlip(page);
const placements = (employmentId: number) =>
  many<{ kind: string; lent: number; from: string; until: string }>(
    running.owner,
    sql`select kind, lent_hours as lent, valid_from::text as "from", valid_until::text as "until" from placement_version
      where employment_id = ${employmentId} and superseded_by is null order by valid_from, kind`,
  );

test('refused with what is there, corrected, started two days late, ended early, undone as one', () =>
  kept(page, 'for-a-time', async () => {
    const positionId = await vacantPosition(running, admin);
    const hired = await admin.call(endpoints.move, {
      body: {
        kind: 'hire',
        input: { person: newcomer('Sojourner'), firstDay: '2026-11-02', positionId, pay: [] },
      } as never,
    });
    const employmentId = hired.employmentId as number;
    const before = await placements(employmentId);
    const to = await vacantPosition(running, admin);
    const [{ code }] = (await many<{ code: string }>(
      running.owner,
      sql`select code from position_version where position_id = ${to} and superseded_by is null limit 1`,
    )) as [{ code: string }];
    await goTo(page, `${running.address}/people/${hired.personId}`);
    await press(page, 'Transfer for a time');
    await pickIn(page, 'positionId', code);
    await type('firstDay', '16/11/26');
    await type('lastDay', '31.3.2027');
    await type('hours', '55');
    await sees(page, 'are there to be lent', '.slip');
    await type('hours', '26,25');
    await sees(page, '0.70', '.twoplaces');
    await complete();
    const away = await placements(employmentId);
    expect(away.map(({ kind, lent, from, until }) => [kind, lent, from, until])).toEqual([
      ['primary', 0, '2026-11-02', '2026-11-16'],
      ['primary', 2625, '2026-11-16', '2027-04-01'],
      ['temporary', 0, '2026-11-16', '2027-04-01'],
      ['primary', 0, '2027-04-01', 'infinity'],
    ]);
    const [{ id }] = (await many<{ id: number }>(
      running.owner,
      sql`select id from movement where kind = 'transfer_for_a_time' order by id desc limit 1`,
    )) as [{ id: number }];
    await goTo(page, `${running.address}/movements/${id}`);
    await sees(page, 'Late: not said yet', '.recordhead');
    await press(page, 'Left as planned, 15 Nov 2026');
    await sees(page, 'said by', '.saying');
    await press(page, 'On another day');
    await type('firstDay', '18.11.26');
    await complete();
    await goTo(page, `${running.address}/movements/${id}`);
    await sees(page, 'on 18 Nov 2026', '.saying');
    await goTo(page, `${running.address}/people/${hired.personId}`);
    await press(page, 'Extend or end early');
    await type('lastDay', '31 Jan 2027');
    await complete();
    expect(
      (await placements(employmentId)).map(({ kind, lent, from, until }) => [kind, lent, from, until]),
    ).toEqual([
      ['primary', 0, '2026-11-02', '2026-11-18'],
      ['primary', 2625, '2026-11-18', '2027-02-01'],
      ['temporary', 0, '2026-11-18', '2027-02-01'],
      ['primary', 0, '2027-02-01', 'infinity'],
    ]);
    await goTo(page, `${running.address}/movements/${id}`);
    await press(page, 'Undo …');
    await page.waitForSelector('.undo-plan li');
    await page.waitForSelector('.slip .ant-btn-primary:not([disabled])', { timeout: 120_000 });
    await page.click('.slip .ant-btn-primary');
    await sees(page, 'undone by entry', '.recordhead');
    expect(await placements(employmentId)).toEqual(before);
  }));
