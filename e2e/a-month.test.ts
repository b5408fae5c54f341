// A month's acts as a person does them: other pay, other hours, away for long, back with fewer hours, undone.
import { expect, test } from '@jest/globals';
import { endpoints } from '@gremium/contract';
import { many, newcomer, one, sql, vacantPosition } from '../server/test/harness';
import { goTo, kept, press, sees } from './browser';
import { completeSlip, pickIn, typeIn } from './in-slip';
import { type Story, story } from './story';

let running: Story['running'];
let page: Story['page'];
let admin: Story['admin'];
story((told) => ({ running, page, admin } = told));

test('pay, hours, a long absence and the return, with numbers and days as they are typed', () =>
  kept(page, 'a-month', async () => {
    const hired = await admin.call(endpoints.move, {
      body: {
        kind: 'hire',
        input: {
          ...{ person: newcomer('Monthly'), firstDay: '2026-11-02', contract: {} },
          ...{ positionId: await vacantPosition(running, admin), pay: [{ amount: '3000' }] },
        },
        words: { pay_outside_range: 'agreed' },
      } as never,
    });
    const employmentId = hired.employmentId as number;
    const at = `${running.address}/people/${hired.personId}`;
    const paid = () =>
      many<{ amount: string; from: string }>(
        running.owner,
        sql`select trim_scale(amount)::text as amount, valid_from::text as "from" from pay_version
          where employment_id = ${employmentId} and superseded_by is null order by valid_from`,
      );
    const placed = () =>
      many<{ hours: number; away: number; from: string }>(
        running.owner,
        sql`select hours, away_hours as away, valid_from::text as "from" from placement_version
          where employment_id = ${employmentId} and superseded_by is null order by valid_from`,
      );
    await goTo(page, at);
    await press(page, 'Set new pay');
    await sees(page, '3,000.00 EUR a month', '.slip');
    await typeIn(page, 'pay-0-amount', '3 075,50');
    await typeIn(page, 'firstDay', '1.1.27');
    await sees(page, '+2.5 %', '.slip');
    await completeSlip(page);
    expect(await paid()).toEqual([
      { amount: '3000', from: '2026-11-02' },
      { amount: '3075.5', from: '2027-01-01' },
    ]);
    const full = (await placed())[0]!.hours;
    await goTo(page, at);
    await press(page, 'More acts');
    await press(page, 'Change terms');
    await typeIn(page, 'hours', '22,5');
    await typeIn(page, 'firstDay', '1 Feb 2027');
    await completeSlip(page);
    expect(await placed()).toEqual([
      { hours: full, away: 0, from: '2026-11-02' },
      { hours: 2250, away: 0, from: '2027-02-01' },
    ]);
    await goTo(page, at);
    await press(page, 'Record absence');
    await typeIn(page, 'firstDay', '1/3/27');
    await typeIn(page, 'lastDay', '30.11.27');
    await pickIn(page, 'kindId', 'Parental');
    await sees(page, 'Hours away', '.slip');
    await completeSlip(page);
    await goTo(page, `${at}?on=2027-04-01`);
    await sees(page, 'away', '.recordhead .standing');
    await press(page, 'Record return');
    await typeIn(page, 'firstDay', '1.9.27');
    await typeIn(page, 'hours', '10');
    await completeSlip(page);
    expect((await placed()).slice(1)).toEqual([
      { hours: 2250, away: 0, from: '2027-02-01' },
      { hours: 2250, away: 2250, from: '2027-03-01' },
      { hours: 2250, away: 1250, from: '2027-09-01' },
      { hours: 2250, away: 0, from: '2027-12-01' },
    ]);
    const { number } = await one<{ number: number }>(
      running.owner,
      sql`select max(number)::int as number from entry where kind = 'long_absence'`,
    );
    const { entries } = await admin.call(endpoints.planUndo, { params: { number } });
    await admin.call(endpoints.undo, {
      params: { number },
      body: { plan: entries.map((one) => one.number) },
    });
    expect((await placed()).map(({ away }) => away)).toEqual([0, 0]);
  }));
