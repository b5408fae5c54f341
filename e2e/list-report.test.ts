// A list report built from nothing, saved, shared, reopened by its address, taken out; by keyboard; as somebody without pay.
import { describe, expect, test } from '@jest/globals';
import { one, sql } from '../server/test/harness';
import { findings, goTo, kept, press, sees } from './browser';
import { type Story, story } from './story';

let running: Story['running'];
let page: Story['page'];
let admin: Story['admin'];
story((told) => ({ running, page, admin } = told));

let acts = 0;
const act = async (name: string) => {
  acts++;
  await press(page, name);
};
// A choice: opened, typed until it is the first one, and taken.
const choose = async (label: string, text: string) => {
  acts++;
  const selector = `input[aria-label="${label}"]`;
  await page.waitForSelector(selector);
  await page.click(selector);
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
const field = async (name: string) => {
  acts++;
  await page.click('input[aria-label="Find a column"]', { count: 3 });
  await page.keyboard.type(name);
  await page.waitForFunction(
    (wanted: string) =>
      [...document.querySelectorAll('.fieldpick')].some((one) => one.textContent?.trim() === wanted),
    {},
    name,
  );
  await page.evaluate((wanted: string) => {
    const all = [...document.querySelectorAll<HTMLElement>('.fieldpick')];
    all.find((one) => one.textContent?.trim() === wanted)?.click();
  }, name);
};

describe('a list report', () => {
  test('fixed terms ending by summer in Harbours with days left, grouped by unit with sums, in at most 14 acts', () =>
    kept(page, 'list-report', async () => {
      await goTo(page, `${running.address}/reports/shelf`);
      await act('New report');
      await page.waitForSelector('.builderpreview table.report');
      await field('Days left');
      await field('Share');
      await choose('Total of Share', 'sum');
      await choose('Group by', 'Unit');
      await act('as text');
      acts++;
      await page.click('.conditiontext', { count: 3 });
      await page.keyboard.type(
        'employment.status in ["at_work", "away"] && contract.fixedUntil < day("2027-06-01") && unit.path.contains("Harbours")',
      );
      await page.waitForFunction(() =>
        /looked at, (?!1,296)\d+ match/.test(document.querySelector('.counts')?.textContent ?? ''),
      );
      await sees(page, 'without a value are left out', '.counts');
      await act('as picked'.replace('as picked', 'by picking'));
      await sees(page, 'before', '.condition');
      const { count } = await one<{ count: number }>(
        running.owner,
        sql`with recursive b (id) as (
            select unit_id from unit_version where name = 'Harbours' and superseded_by is null
            union select v.unit_id from unit_version v join b on v.parent_id = b.id where v.superseded_by is null
              and v.valid_from <= '2026-11-23' and v.valid_until > '2026-11-23')
          select count(distinct e.person_id)::int as count from contract_version c
          join employment_version e on e.employment_id = c.employment_id and e.superseded_by is null and e.valid_from <= '2026-11-23' and e.valid_until > '2026-11-23'
          join placement_version h on h.employment_id = c.employment_id and h.superseded_by is null and h.kind = 'primary' and h.valid_from <= '2026-11-23' and h.valid_until > '2026-11-23'
          join position_version p on p.position_id = h.position_id and p.superseded_by is null and p.valid_from <= '2026-11-23' and p.valid_until > '2026-11-23'
          join b on b.id = p.unit_id
          where c.superseded_by is null and c.valid_from <= '2026-11-23' and c.valid_until > '2026-11-23' and c.fixed_until < '2027-06-01'`,
      );
      await sees(page, `${count} match`, '.counts');
      expect(
        await page.$$eval('table.report tbody tr:not(.groupline):not(.subtotal)', (rows) => rows.length),
      ).toBe(count);
      expect(await findings(page)).toEqual([]);
      await act('Save as a new report');
      acts++;
      await page.waitForSelector('#report-name');
      await page.type('#report-name', 'Befristungen der Häfen bis zum Sommer');
      await page.evaluate(() => {
        const boxes = [...document.querySelectorAll<HTMLElement>('.saveform .ant-checkbox-wrapper')];
        boxes.find((box) => box.textContent === 'managers')?.click();
      });
      acts++;
      await press(page, 'Save report');
      acts++;
      await page.waitForFunction(() => /\/reports\/list\/\d+/.test(location.pathname));
      await sees(page, 'Befristungen der Häfen', 'h1');
      expect(acts).toBeLessThanOrEqual(14);
      const address = page.url();
      await page.goto(`${running.address}/people`);
      await goTo(page, address);
      await sees(page, `${count} match`, '.counts');
    }));

  test('what is changed and not saved stands in the address; a link of it reopens just that', () =>
    kept(page, 'list-report-address', async () => {
      await press(page, 'ascending').catch(() => undefined);
      await press(page, 'Move up: Share');
      await sees(page, 'changes not saved');
      await page.waitForFunction(() => location.search.includes('view='));
      // what is shown follows what is built a moment later
      await page.waitForFunction(
        () => document.querySelectorAll('table.report thead th')[3]?.textContent === 'Share',
      );
      await page.waitForFunction(() => {
        const text = new URLSearchParams(location.search).get('view') ?? '';
        const view = JSON.parse(atob(text.replaceAll('-', '+').replaceAll('_', '/'))) as {
          columns: { field: string }[];
        };
        return view.columns[3]?.field === 'placement.share';
      });
      const address = page.url();
      const heads = () => page.$$eval('table.report thead th', (all) => all.map((one) => one.textContent));
      const before = await heads();
      await page.goto(`${running.address}/people`);
      await goTo(page, address);
      await page.waitForSelector('table.report thead th');
      expect(await heads()).toEqual(before);
      await sees(page, 'changes not saved');
    }));

  test('a mistake in the text is said with its place, and what was there last still stands', () =>
    kept(page, 'list-report-wrong', async () => {
      await goTo(page, `${running.address}/reports/list`);
      await press(page, 'as text');
      await page.click('.conditiontext', { count: 3 });
      await page.keyboard.type('person.age >> 5');
      await sees(page, 'cannot be read', '.builderpreview');
      await page.click('.conditiontext', { count: 3 });
      await page.keyboard.type('person.age > "old"');
      await sees(page, 'a number', '.builderpreview');
    }));

  test('it is on the shelf of a manager, who does not see what is not theirs', async () => {
    const { reports } = await admin.call((await import('@gremium/contract')).endpoints.reports, {});
    expect(reports.find(({ name }) => name.startsWith('Befristungen'))).toMatchObject({
      isMine: true,
      shared: [{ role: 'manager', may: 'view' }],
    });
  });
});
