// Units moved in the outline: one taken up and put below another from the keyboard, one dragged; the slip decides, the outline of
// the day before stays; a split and a merge, and their undo.
import { describe, expect, test } from '@jest/globals';
import { believed, one, sql } from '../server/test/harness';
import { findings, goTo, kept, press, sees } from './browser';
import { type Story, story } from './story';

let running: Story['running'];
let page: Story['page'];
story((told) => ({ running, page } = told));

const unitNamed = async (name: string): Promise<number> =>
  (
    await one<{ id: number }>(
      running.owner,
      sql`select unit_id as id from unit_version where name = ${name} and superseded_by is null and valid_until = 'infinity' limit 1`,
    )
  ).id;
const aboveOn = async (unit: number, on: string): Promise<number | null> =>
  (
    await one<{ above: number | null }>(
      running.owner,
      sql`select parent_id as above from unit_version where unit_id = ${unit} and superseded_by is null
        and valid_from <= ${on}::date and ${on}::date < valid_until`,
    )
  ).above;
const complete = async () => {
  await page.waitForFunction(
    () => document.querySelector<HTMLButtonElement>('.slipfoot button[type="submit"]')?.disabled === false,
  );
  await page.click('.slipfoot button[type="submit"]');
  await page.waitForFunction(() => !document.querySelector('.slipform'));
};
const fill = async (field: string, text: string) => {
  const selector = `.slipform [id$="-${field}"]`;
  await page.waitForSelector(selector);
  await page.click(selector, { count: 3 });
  await page.keyboard.type(text);
};

describe('reorganising', () => {
  test('a unit is taken up and put below another one by the keyboard; its slip opens with where it goes', () =>
    kept(page, 'reorganise-keys', async () => {
      const [digital, fleet, top] = [
        await unitNamed('Digital'),
        await unitNamed('Fleet'),
        await unitNamed('Vessmar Ferries'),
      ];
      await goTo(page, `${running.address}/structure/outline?on=2027-01-01`);
      await press(page, 'Reorganise');
      await page.waitForSelector('button[aria-label="Take up Digital"]');
      await page.focus('button[aria-label="Take up Digital"]');
      await page.keyboard.press('Enter');
      await sees(page, 'Digital is taken up');
      expect(await page.$('button[aria-label="put below Vessmar Ferries: Digital"]')).toBeNull();
      expect(await findings(page)).toEqual([]);
      await page.focus('button[aria-label="put below Fleet: Digital"]');
      await page.keyboard.press('Enter');
      await sees(page, 'Moves along: units 4', '.slip');
      expect(await aboveOn(digital, '2027-01-01')).toBe(top);
      await complete();
      expect([await aboveOn(digital, '2026-12-31'), await aboveOn(digital, '2027-01-01')]).toEqual([
        top,
        fleet,
      ]);
    }));

  test('a unit dragged onto another one does the same; onto one below it, nothing', () =>
    kept(page, 'reorganise-drag', async () => {
      const [safety, yards] = [await unitNamed('Safety'), await unitNamed('Yards')];
      await goTo(page, `${running.address}/structure/outline?on=2027-01-01&reorganise=1`);
      await page.waitForSelector(`tr[data-unit="${safety}"]`);
      // the pointer of a headless browser does not drag: the events it would make are made here
      await page.evaluate(
        async (from, onto) => {
          const row = (id: number) => document.querySelector(`tr[data-unit="${id}"]`) as HTMLElement;
          const data = new DataTransfer();
          const say = async (id: number, type: string) => {
            row(id).dispatchEvent(
              new DragEvent(type, { bubbles: true, cancelable: true, dataTransfer: data }),
            );
            await new Promise((done) => setTimeout(done, 100));
          };
          await say(from, 'dragstart');
          await say(onto, 'dragover');
          await say(onto, 'drop');
        },
        safety,
        yards,
      );
      await page.waitForSelector('.slipform');
      await complete();
      expect(await aboveOn(safety, '2027-01-01')).toBe(yards);
    }));

  test('a unit is split with what is chosen, and merged back; undone, all is as it was', () =>
    kept(page, 'reorganise-split', async () => {
      const before = await believed(running);
      const sales = await unitNamed('Sales');
      await goTo(page, `${running.address}/structure/units/${sales}?on=2027-02-01`);
      await press(page, 'Split');
      await fill('name', 'Key Accounts');
      await page.waitForSelector('.concerned tbody tr');
      for (const i of [1, 2]) {
        await page.waitForFunction(
          (n) => document.querySelectorAll('.concerned button')[n - 1]?.textContent === 'take along',
          {},
          i,
        );
        await page.evaluate(
          (n) => document.querySelectorAll<HTMLElement>('.concerned button')[n - 1]?.click(),
          i,
        );
        await page.waitForFunction(
          (n) => document.querySelectorAll('.concerned button')[n - 1]?.textContent?.includes('goes along'),
          {},
          i,
        );
      }
      await complete();
      const accounts = await unitNamed('Key Accounts');
      const { n } = await one<{ n: number }>(
        running.owner,
        sql`select count(*)::int as n from position_version where unit_id = ${accounts} and superseded_by is null`,
      );
      expect(n).toBe(2);
      await goTo(page, `${running.address}/structure/units/${accounts}?on=2027-02-01`);
      await sees(page, 'Split off from Sales', '.recordhead');
      await press(page, 'Merge');
      await page.waitForSelector('.slipform [id$="-intoId"]');
      await fill('intoId', 'Sales');
      await page.waitForSelector(
        '.ant-select-dropdown:not(.ant-select-dropdown-hidden) .ant-select-item-option-active',
      );
      await page.keyboard.press('Enter');
      // the day on which it began is too early for an end: a later one
      await fill('firstDay', '1.3.2027');
      await page.keyboard.press('Enter');
      await page.keyboard.press('Escape');
      await complete();
      await goTo(page, `${running.address}/structure/units/${accounts}?on=2027-03-01`);
      await sees(page, 'It was merged into Sales');
      for (let entries = 0; entries < 2; entries++) {
        const { number } = await one<{ number: number }>(
          running.owner,
          sql`select max(number) as number from entry e where kind in ('merge_unit', 'split_unit')
            and not exists (select from entry_undo u where u.undone_id = e.id)`,
        );
        await goTo(page, `${running.address}/structure/outline?undo=${number}`);
        await page.waitForSelector('.undo-plan li');
        await press(page, 'Undo this entry');
        await sees(page, 'One entry is undone', '.slip');
      }
      expect(await believed(running)).toEqual(before);
    }));
});
