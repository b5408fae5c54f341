// An administrator signs in and looks up people today and on another day; in German, in the dark; by keyboard.
import { describe, expect, test } from '@jest/globals';
import { many, sql } from '../server/test/harness';
import { findings, kept, press, sees } from './browser';
import { type Story, story } from './story';

let running: Story['running'];
let page: Story['page'];
story((told) => ({ running, page } = told), null);

const countText = () => page.$eval('.query .count span', (span) => span.textContent ?? '');
const waitForCount = (count: string) =>
  page.waitForFunction(
    (text: string) => document.querySelector('.query .count span')?.textContent?.split(';')[0] === text,
    {},
    count,
  );

const peopleOn = async (day: string): Promise<number> => {
  const [row] = await many<{ n: number }>(
    running.owner,
    sql`select count(distinct person_id)::int as n from employment_version
      where superseded_by is null and valid_from <= ${day}::date and ${day}::date < valid_until`,
  );
  return row!.n;
};

describe('looking up people', () => {
  test('signing in by keyboard alone; a wrong password is said', () =>
    kept(page, 'sign-in', async () => {
      await page.goto(running.address);
      await page.waitForSelector('#email');
      await page.waitForSelector('.demo button');
      expect(await findings(page)).toEqual([]);
      await page.focus('#email');
      await page.keyboard.type('admin@vessmar.example');
      await page.keyboard.press('Tab');
      await page.keyboard.type('wrong');
      await page.keyboard.press('Enter');
      await page.waitForSelector('[role=alert]');
      expect(await page.$eval('[role=alert]', (alert) => alert.textContent)).toContain(
        'Email or password is wrong',
      );
      await page.focus('#password');
      await page.keyboard.down('Control');
      await page.keyboard.press('a');
      await page.keyboard.up('Control');
      await page.keyboard.type('vessmar-demo-only');
      await page.keyboard.press('Enter');
      await page.waitForSelector('.app');
    }));

  test('the list shows everybody here today, and on another day those of that day', () =>
    kept(page, 'people', async () => {
      await page.goto(`${running.address}/people`);
      await waitForCount(`${(await peopleOn('2026-11-23')).toLocaleString('en')} people`);
      expect(await findings(page)).toEqual([]);
      await page.goto(`${running.address}/people?on=2020-05-01`);
      await waitForCount(`${(await peopleOn('2020-05-01')).toLocaleString('en')} people`);
      expect(await page.$eval('.lensline', (note) => note.textContent)).toContain('1 May 2020 as it was');
    }));

  test('search finds by any part of the name; nothing found is said with what to do', () =>
    kept(page, 'search', async () => {
      const [row] = await many<{ family: string; n: number }>(
        running.owner,
        sql`select family, 0 as n from person_name_version where family ~ '[äöåøÄÖÅØ]' order by id limit 1`,
      );
      const plain = row!.family.normalize('NFD').replace(/\p{M}/gu, '').replace(/ø/g, 'o').toLowerCase();
      await page.goto(`${running.address}/people?on=2018-01-01&search=${encodeURIComponent(plain)}`);
      await page.waitForSelector('.li .a');
      const names = await page.$$eval('.li .a', (lines) => lines.map((line) => line.textContent ?? ''));
      expect(names.join()).toContain(row!.family);
      await page.goto(`${running.address}/people?search=zzzz`);
      await page.waitForSelector('.empty');
      expect(await countText()).toBe('0 people');
    }));

  test('German and the dark theme are one act away and stay', () =>
    kept(page, 'german', async () => {
      await page.goto(`${running.address}/people`);
      for (const act of ['Deutsch', 'Nachtpult']) {
        await page.waitForSelector('.me');
        await page.click('.me');
        await sees(page, act, '.me-panel');
        await press(page, act);
        await page.keyboard.press('Escape');
      }
      await sees(page, 'Personen hier', '.query');
      await page.reload();
      await sees(page, 'Personen hier', '.query');
      expect(await page.$eval('.page', (element) => element.getAttribute('data-theme'))).toBe('dark');
      expect(await findings(page)).toEqual([]);
    }));
});
