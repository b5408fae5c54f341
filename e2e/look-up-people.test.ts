// An administrator signs in and looks up people today and on another day; in German, in the dark; by keyboard.
import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Browser, Page } from 'puppeteer-core';
import { type Running, many, sql, startServer } from '../server/test/harness';
import { kept, openBrowser, openPage } from './browser';

let running: Running;
let browser: Browser;
let page: Page;
beforeAll(async () => {
  running = await startServer('demo');
  browser = await openBrowser();
  page = await openPage(browser);
});
afterAll(async () => {
  await browser.close();
  await running.close();
});

const countText = () => page.$eval('.people .line span', (span) => span.textContent ?? '');
const waitForCount = (count: string) =>
  page.waitForFunction(
    (text: string) => document.querySelector('.people .line span')?.textContent === text,
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

const findings = async (): Promise<string[]> => {
  await page.evaluate(readFileSync('node_modules/axe-core/axe.min.js', 'utf8'));
  return page.evaluate(async () => {
    const { axe } = window as unknown as {
      axe: { run: () => Promise<{ violations: { id: string; impact: string }[] }> };
    };
    const { violations } = await axe.run();
    return violations
      .filter(({ impact }) => impact === 'serious' || impact === 'critical')
      .map(({ id }) => id);
  });
};

describe('looking up people', () => {
  test('signing in by keyboard alone; a wrong password is said', () =>
    kept(page, 'sign-in', async () => {
      await page.goto(running.address);
      await page.waitForSelector('#email');
      await page.waitForSelector('.demo button');
      expect(await findings()).toEqual([]);
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
      await page.waitForSelector('table.register');
    }));

  test('the list shows everybody here today, and on another day those of that day', () =>
    kept(page, 'people', async () => {
      await waitForCount(`${(await peopleOn('2026-11-23')).toLocaleString('en')} people`);
      expect(await findings()).toEqual([]);
      await page.goto(`${running.address}/?on=2020-05-01`);
      await waitForCount(`${(await peopleOn('2020-05-01')).toLocaleString('en')} people`);
      expect(await page.$eval('.otherday', (note) => note.textContent)).toContain('1 May 2020');
    }));

  test('search finds by any part of the name; nothing found is said with what to do', () =>
    kept(page, 'search', async () => {
      const [row] = await many<{ family: string; n: number }>(
        running.owner,
        sql`select family, 0 as n from person_name_version where family ~ '[äöåøÄÖÅØ]' order by id limit 1`,
      );
      const plain = row!.family.normalize('NFD').replace(/\p{M}/gu, '').replace(/ø/g, 'o').toLowerCase();
      await page.goto(`${running.address}/?on=2018-01-01&search=${encodeURIComponent(plain)}`);
      await page.waitForSelector('table.register td.who');
      const names = await page.$$eval('table.register td.who', (cells) =>
        cells.map((cell) => cell.textContent ?? ''),
      );
      expect(names.join()).toContain(row!.family);
      await page.goto(`${running.address}/?search=zzzz`);
      await page.waitForSelector('.empty');
      expect(await countText()).toBe('0 people');
    }));

  test('German and the dark theme are one act away and stay', () =>
    kept(page, 'german', async () => {
      await page.goto(running.address);
      await page.waitForSelector('table.register');
      const press = (text: string) =>
        page.evaluate((label: string) => {
          [...document.querySelectorAll('button')].find((button) => button.textContent === label)?.click();
        }, text);
      await press('Deutsch');
      await press('Nachtpult');
      await page.waitForFunction(() => document.querySelector('h1')?.textContent === 'Personen');
      await page.reload();
      await page.waitForSelector('table.register');
      expect(await page.$eval('h1', (title) => title.textContent)).toBe('Personen');
      expect(await findings()).toEqual([]);
    }));
});
