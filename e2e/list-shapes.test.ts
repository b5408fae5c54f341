// Lists on the catalogue in the browser: narrowed by any field, as a table, cards and the tree; kept, opened again, by its address.
import { describe, expect, test } from '@jest/globals';
import { one, sql } from '../server/test/harness';
import { findings, focused, goTo, kept, press, sees, tabTo } from './browser';
import { type Story, story } from './story';

let running: Story['running'];
let page: Story['page'];
story((told) => ({ running, page } = told));

const choose = async (label: string, text: string) => {
  await page.waitForSelector(`input[aria-label="${label}"]`);
  await page.click(`input[aria-label="${label}"]`);
  await page.keyboard.type(text);
  await page.waitForFunction(
    (wanted: string) =>
      [...document.querySelectorAll('.ant-select-item-option-active')].some(
        (option) => (option as HTMLElement).offsetParent !== null && option.textContent?.startsWith(wanted),
      ),
    {},
    text,
  );
  await page.keyboard.press('Enter');
};
const firstCells = () =>
  page.$$eval('.tablebox tbody tr td:first-child', (cells) => cells.map((cell) => cell.textContent ?? ''));

describe('the list of people', () => {
  test('is narrowed by a field of their pay by picking, and counts as SQL does', () =>
    kept(page, 'list-where', async () => {
      await goTo(page, `${running.address}/people`);
      await press(page, 'where …');
      await press(page, 'Add a condition');
      await choose('Field 1', 'Amount · Pay');
      await choose('Comparison 1', 'above');
      await page.type('[aria-label="Value 1"]', '5.400,50');
      const { count } = await one<{ count: number }>(
        running.owner,
        sql`select count(distinct e.person_id)::int as count from pay_version p
          join list_entry_version k on k.list_entry_id = p.kind_id and k.superseded_by is null
          join employment_version e on e.employment_id = p.employment_id and e.superseded_by is null
            and e.valid_from <= '2026-11-23' and e.valid_until > '2026-11-23'
          where p.superseded_by is null and p.valid_from <= '2026-11-23' and p.valid_until > '2026-11-23'
            and (k.flags::json ->> 'base')::boolean and p.amount > 5400.5`,
      );
      expect(count).toBeGreaterThan(20);
      await sees(page, `${count} people`, '.count');
      await press(page, 'Done');
      await sees(page, 'where Amount above 5,400.50', '.query');
      expect(await findings(page)).toEqual([]);
    }));

  test('is shown as a table of the same people, ordered by a head, with a column more, and keeps its place', () =>
    kept(page, 'list-table', async () => {
      const said = await page.$eval('.count span', (one) => one.textContent);
      await press(page, 'table');
      await page.waitForSelector('.tablebox tbody tr td');
      const count = Number(/\d+/.exec(said ?? '')?.[0]);
      await sees(page, `${count} of `, '.listtable .counts');
      await press(page, 'Columns');
      await page.waitForSelector('.columnsform');
      await page.type('.columnsform input', 'Amount');
      await press(page, 'Amount');
      await page.keyboard.press('Escape');
      await page.waitForFunction(
        () => [...document.querySelectorAll('.tablebox th')].at(-1)?.textContent === 'Amount',
      );
      await press(page, 'Order by Amount');
      await press(page, 'Order by Amount');
      await page.waitForFunction(() => location.search.includes('order=-pay.amount'));
      await page.waitForFunction(() => {
        const cells = [...document.querySelectorAll('.tablebox tbody tr td:last-child')];
        const amounts = cells.map((cell) => Number((cell.textContent ?? '').replace(/[^\d.]/g, '')));
        return amounts.length > 5 && amounts.every((amount, i) => i === 0 || amount <= (amounts[i - 1] ?? 0));
      });
      await page.$eval('.tablebox', (box) => box.scrollTo(0, 400));
      await page.waitForFunction(() => (document.querySelector('.tablebox')?.scrollTop ?? 0) > 300);
      const before = await page.$eval('.tablebox', (box) => box.scrollTop);
      await page.$$eval('.tablebox tbody a', (links) => (links[8] as HTMLElement).click());
      await page.waitForSelector('.recordhead.person');
      await sees(page, 'where Amount above', '.query');
      await press(page, 'table');
      await page.waitForFunction(
        (at: number) => Math.abs((document.querySelector('.tablebox')?.scrollTop ?? 0) - at) < 40,
        {},
        before,
      );
      expect(await findings(page)).toEqual([]);
    }));

  test('is kept as a view, which others open too; the address alone shows the same', () =>
    kept(page, 'list-kept', async () => {
      await page.$eval('.tablebox', (box) => box.scrollTo(0, 0));
      const [address, names] = [page.url(), await firstCells()];
      await press(page, 'Kept views');
      await press(page, 'Keep this view');
      await page.waitForSelector('#report-name');
      await page.type('#report-name', 'Hohe Entgelte, absteigend');
      await press(page, 'Save report');
      await sees(page, 'Kept: Hohe Entgelte', '.listfoot');
      await goTo(page, `${running.address}/people`);
      await press(page, 'Kept views');
      await press(page, 'Hohe Entgelte, absteigend');
      await page.waitForSelector('.tablebox tbody tr td');
      await page.waitForFunction(
        (wanted: string) => document.querySelector('.tablebox tbody td')?.textContent === wanted,
        {},
        names[0] as string,
      );
      expect((await firstCells()).slice(0, 8)).toEqual(names.slice(0, 8));
      await goTo(page, address);
      await page.waitForSelector('.tablebox tbody tr td');
      expect((await firstCells()).slice(0, 8)).toEqual(names.slice(0, 8));
      await press(page, 'Kept views');
      await press(page, 'Open as a report');
      // what was kept of an older answer gives way to the new one
      await page.waitForFunction(
        (wanted: string) => document.querySelector('table.report tbody tr td')?.textContent === wanted,
        {},
        names[0] as string,
      );
    }));

  test('cards show a photo, title, place and since when; the tree unfolds who reports to whom', () =>
    kept(page, 'list-tree', async () => {
      await goTo(page, `${running.address}/people?as=cards`);
      await page.waitForSelector('.card img.portrait');
      await sees(page, 'since 1 Nov 2016', '.cards');
      expect(await findings(page)).toEqual([]);
      await press(page, 'who reports to whom');
      await page.waitForSelector('.treeline');
      await press(page, 'Who reports to Aino Lehtonen');
      await page.waitForFunction(
        () => document.querySelectorAll('.reportingtree ul ul ul .treeline').length === 10,
      );
      expect(await findings(page)).toEqual([]);
    }));

  test('a condition that cannot be read is said with its place, and the table stands by keyboard alone', () =>
    kept(page, 'list-keys', async () => {
      await goTo(page, `${running.address}/people?where=person.age+%3E%3E+5`);
      await sees(page, 'cannot be read', '.list');
      await goTo(page, `${running.address}/people?as=table&search=maren`);
      await page.waitForSelector('.tablebox tbody tr td');
      expect((await firstCells()).every((name) => name.includes('Maren'))).toBe(true);
      await tabTo(page, 'Order by First day');
      await page.keyboard.press('Enter');
      await page.waitForFunction(() =>
        document.querySelector('[aria-sort="ascending"]')?.textContent?.startsWith('First day'),
      );
      expect(await focused(page)).toContain('Order by First day');
    }));
});

describe('the list of positions', () => {
  test('as a table is the list: each of its filters shows as many', () =>
    kept(page, 'list-positions', async () => {
      for (const shown of [
        'open',
        'free',
        'above',
        'top',
        'differs',
        'planned',
        'on_hold',
        'closed',
        'any',
      ]) {
        await goTo(page, `${running.address}/structure/positions?shown=${shown}`);
        const said = await page.$eval('.count span', (one) => one.textContent ?? '');
        await press(page, 'table');
        await page.waitForSelector('.listtable [role="status"]');
        const counted = await page.$eval('.listtable [role="status"]', (one) => one.textContent ?? '');
        const [list, table] = [said, counted].map((text) =>
          Number(/^[\d,]+/.exec(text)?.[0]?.replace(',', '')),
        );
        expect([shown, table]).toEqual([shown, list]);
      }
    }));
});
