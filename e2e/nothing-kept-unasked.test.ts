// A slip that is only opened keeps nothing; what is begun waits on one page; keys pressed while find-or-do opens are not lost.
import { expect, test } from '@jest/globals';
import { movementOf } from '@gremium/contract';
import { one, sql } from '../server/test/harness';
import { focusOn, goTo, kept, press, sees } from './browser';
import { type Story, story } from './story';

let running: Story['running'];
let page: Story['page'];
story((told) => ({ running, page } = told));

const drafts = async (): Promise<number> =>
  (
    await one<{ count: number }>(
      running.owner,
      sql`select count(*)::int as count from movement where entry_number is null`,
    )
  ).count;

test('opened and closed nothing is kept; typed it is, and is gone on with from the page of what is in preparation', () =>
  kept(page, 'opened', async () => {
    const { id, name } = await one<{ id: number; name: string }>(
      running.owner,
      sql`select e.person_id as id, n.family as name from employment_version e
        join person_name_version n on n.person_id = e.person_id and n.superseded_by is null
        where e.superseded_by is null and e.valid_until = 'infinity' order by e.person_id limit 1`,
    );
    const before = await drafts();
    await goTo(page, `${running.address}/people/${id}`);
    await press(page, movementOf('leave').act.en);
    await page.waitForSelector('.slip input[id$="lastDay"]');
    await goTo(page, `${running.address}/people/drafts`);
    expect(await drafts()).toBe(before);

    await goTo(page, `${running.address}/people/${id}`);
    await press(page, movementOf('leave').act.en);
    await page.waitForSelector('.slip input[id$="lastDay"]');
    await focusOn(page, '.slip input[id$="lastDay"]');
    await page.keyboard.type('30.6.27');
    await sees(page, 'Draft kept', '.slip');
    expect(await drafts()).toBe(before + 1);
    await goTo(page, `${running.address}/people/drafts`);
    await sees(page, name, '.steps');
    await sees(page, '30 Jun 2027', '.steps');
    await press(page, 'Continue');
    await page.waitForSelector('.slip input[id$="lastDay"]');
    expect(await page.$eval('.slip input[id$="lastDay"]', (input) => (input as HTMLInputElement).value)).toBe(
      '30 Jun 2027',
    );
  }));

test('letters typed right after Ctrl K stand in the line, the first one too', () =>
  kept(page, 'ctrl-k', async () => {
    for (let round = 0; round < 3; round++) {
      await goTo(page, `${running.address}/people`);
      await page.keyboard.down('Control');
      await page.keyboard.press('k');
      await page.keyboard.up('Control');
      await page.keyboard.type('harbour');
      await page.waitForSelector('.find-or-do input');
      await page.waitForFunction(
        () => document.querySelector<HTMLInputElement>('.find-or-do input')?.value === 'harbour',
        { timeout: 120_000 },
      );
    }
  }));
