// An administrator keeps the lists that forms pick from: adds an entry, sees where another is used, merges two and undoes it,
// retires one, and is told what stands in the way.
import { describe, expect, test } from '@jest/globals';
import { believed, many, one, sql, vacantPosition } from '../server/test/harness';
import { findings, goTo, kept, press, sees } from './browser';
import { type Story, story } from './story';

let running: Story['running'];
let page: Story['page'];
let admin: Story['admin'];
story((told) => ({ running, page, admin } = told));

const usesShown = (name: string): Promise<number> =>
  page.$$eval(
    '.lists tbody tr',
    (rows, wanted) => {
      const row = rows.find((one) => one.querySelector('b')?.textContent === wanted);
      return Number(row?.querySelector('.r')?.textContent?.replace(/\D/g, '') ?? -1);
    },
    name,
  );

const choose = async (selector: string, text: string) => {
  await page.click(selector);
  await page.keyboard.type(text);
  await page.waitForSelector('.ant-select-item-option-active');
  await page.keyboard.press('Enter');
};

describe('lists', () => {
  test('an entry is added with its label in two languages, and can be chosen', () =>
    kept(page, 'list-add', async () => {
      await goTo(page, `${running.address}/setup/lists`);
      await sees(page, 'Reasons for leaving', '.list');
      await sees(page, '8 of 8 lists that are asked for are set up', '.list');
      await goTo(page, `${running.address}/setup/lists/reason_leave`);
      await press(page, 'Add an entry');
      await page.waitForSelector('input[aria-label="Label"]');
      await page.type('input[aria-label="Label"]', 'End of season');
      await page.type('input[aria-label="In German"]', 'Saisonende');
      await choose('#entry-class', 'agreed');
      expect(await findings(page)).toEqual([]);
      await press(page, 'Add');
      await sees(page, 'End of season added', '.savedline');
      const [made] = await many<{ code: string; label: object; flags: object }>(
        running.owner,
        sql`select code, label, flags from list_entry_version where label ->> 'de' = 'Saisonende' and superseded_by is null`,
      );
      expect(made).toEqual({
        code: 'END-OF-SEASON',
        label: { en: 'End of season', de: 'Saisonende' },
        flags: { acts: ['leave'], class: 'end_of_term' },
      });
      expect(await usesShown('End of season')).toBe(0);
    }));

  test('two are merged with what will move said before; the undo brings all of it back', () =>
    kept(page, 'list-merge', async () => {
      const before = await believed(running);
      const [resigned, dismissed] = [await usesShown('Resigned'), await usesShown('Dismissed')];
      const { n } = await one<{ n: number }>(
        running.owner,
        sql`select count(*)::int as n from employment_version v
          join list_entry_version l on l.list_entry_id = v.end_reason_id and l.superseded_by is null
          where v.superseded_by is null and l.code = 'RESIGNED'`,
      );
      expect(resigned).toBeGreaterThanOrEqual(n);
      await press(page, `${resigned.toLocaleString('en')}, Where Resigned is used`);
      await sees(page, 'Employment, Reason of leaving', '.opened');
      await press(page, 'Merge Resigned into another');
      await choose('#move-to', 'Dismissed');
      await sees(page, `${resigned.toLocaleString('en')} uses of Resigned move to Dismissed.`, '.opened');
      await press(page, 'Merge');
      await sees(page, 'Resigned merged', '.savedline');
      await page.waitForFunction(() => !document.querySelector('.opened'));
      expect(await usesShown('Dismissed')).toBe(resigned + dismissed);
      await page.click('.savedline button');
      await page.waitForSelector('.undo-plan li');
      await press(page, 'Undo this entry');
      await sees(page, 'One entry is undone', '.slip');
      expect(await believed(running)).toEqual(before);
    }));

  test('what plans still name is not retired; the sentence says from when', () =>
    kept(page, 'list-retire', async () => {
      await goTo(page, `${running.address}/setup/lists/reason_hire`);
      await press(page, 'Retire Summer season');
      await press(page, 'Retire');
      await sees(page, 'still names Summer season', '.opened');
      expect(await usesShown('Summer season')).toBeGreaterThan(0);
    }));
});

describe('what is missing from a picker', () => {
  test('a reason is added from inside the hire, which keeps what was typed and takes it', () =>
    kept(page, 'picker-add', async () => {
      const position = await vacantPosition(running, admin, '%Vess%');
      await goTo(page, `${running.address}/structure/positions/${position}?on=2027-01-11&do=hire`);
      await page.waitForSelector('.slip form input');
      await page.type('.slip input[id$="given"]', 'Ester');
      await page.click('.slip input[id$="reasonId"]');
      await page.keyboard.type('Winter replacement');
      await sees(page, 'Add “Winter replacement”', '.ant-select-dropdown');
      await page.keyboard.press('Enter');
      await page.waitForSelector('.addentry input[aria-label="Label"]');
      expect(
        await page.$eval('.addentry input[aria-label="Label"]', (input) => (input as HTMLInputElement).value),
      ).toBe('Winter replacement');
      await page.type('.addentry input[aria-label="In German"]', 'Wintervertretung');
      await page.keyboard.press('Enter');
      await page.waitForSelector('.addentry', { hidden: true });
      await sees(page, 'Winter replacement', '.slip');
      expect(await page.$eval('.slip input[id$="given"]', (input) => (input as HTMLInputElement).value)).toBe(
        'Ester',
      );
      const [made] = await many<{ flags: object; list: string }>(
        running.owner,
        sql`select flags, list from list_entry_version where code = 'WINTER-REPLACEMENT' and superseded_by is null`,
      );
      expect(made).toEqual({ list: 'reason', flags: { acts: ['hire'] } });
    }));
});
