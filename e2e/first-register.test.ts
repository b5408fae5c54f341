// A register from nothing: the first administrator describes the organisation, makes units on three levels and what is missing
// from pickers in their place, hires with and without a position, and looks at it on a day before, today and later.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Browser, Page } from 'puppeteer-core';
import { firstAdministratorLink } from '@gremium/server';
import { PASSWORD, type Running, many, one, sql, startServer } from '../server/test/harness';
import { findings, goTo, kept, openBrowser, openPage, press, sees } from './browser';

let running: Running;
let browser: Browser;
let page: Page;
beforeAll(async () => {
  running = await startServer('empty');
  browser = await openBrowser();
  page = await openPage(browser);
});
afterAll(async () => {
  await browser.close();
  await running.close();
});

const fill = async (selector: string, text: string) => {
  await page.waitForSelector(selector);
  await page.click(selector, { count: 3 });
  await page.keyboard.type(text);
};

const choose = async (selector: string, text: string) => {
  await fill(selector, text);
  await page.waitForFunction(
    (wanted) =>
      document
        .querySelector('.ant-select-dropdown:not(.ant-select-dropdown-hidden) .ant-select-item-option-active')
        ?.textContent?.includes(wanted),
    {},
    text,
  );
  await page.keyboard.press('Enter');
};

const day = async (selector: string, text: string) => {
  await fill(selector, text);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
};

/** Adds what a picker of the slip does not have; the slip stays as it is. */
const addInPlace = async (field: string, text: string, more: () => Promise<void>) => {
  await fill(slip(field), text);
  await page.waitForFunction(
    (wanted) =>
      [
        ...document.querySelectorAll(
          '.ant-select-dropdown:not(.ant-select-dropdown-hidden) .ant-select-item-option-active',
        ),
      ].some((one) => one.textContent?.includes(`Add “${wanted}”`)),
    {},
    text,
  );
  await page.keyboard.press('Enter');
  await page.waitForSelector('.addentry .entryform');
  await more();
  await page.evaluate(() =>
    document.querySelector<HTMLElement>('.addentry .entryform button[type="submit"]')?.click(),
  );
  await page.waitForSelector('.addentry', { hidden: true });
  await sees(page, text, '.slipform');
};

const slip = (field: string): string => `.slipform [id$="-${field}"]`;
const openMore = () =>
  page.evaluate(() => {
    for (const one of document.querySelectorAll<HTMLDetailsElement>('.slipform details')) one.open = true;
  });
const complete = async (name: string) => {
  await page.waitForFunction(
    () => !document.querySelector<HTMLButtonElement>('.slipfoot button[type="submit"]')?.disabled,
  );
  await page.click('.slipfoot button[type="submit"]');
  await sees(page, name, '.slip .result, .slip');
  await page.waitForFunction(() => !document.querySelector('.slipform'));
};
const at = (path: string) => goTo(page, `${running.address}${path}`);
const unitId = async (name: string): Promise<number> =>
  (
    await one<{ id: number }>(
      running.owner,
      sql`select unit_id as id from unit_version where name = ${name} and superseded_by is null`,
    )
  ).id;

describe('a register from nothing', () => {
  test('the first administrator describes the organisation; what is still empty is listed in order', () =>
    kept(page, 'first-organisation', async () => {
      const token = await firstAdministratorLink(running);
      await page.goto(`${running.address}/first-administrator#${token}`);
      await fill('#name', 'Åsa Müller');
      await fill('#email', 'asa@nordhafen.example');
      await fill('#password', PASSWORD);
      await page.keyboard.press('Enter');
      await page.waitForSelector('a[href="/"]');
      await page.click('a[href="/"]');
      await fill('#email', 'asa@nordhafen.example');
      await fill('#password', PASSWORD);
      await page.keyboard.press('Enter');
      await page.waitForSelector('.app');
      await sees(page, 'No unit is in effect on this day.');
      await press(page, 'Describe the organisation first');
      await fill('#organisation-name', 'Nordhafen Fähren');
      await choose('#organisation-country', 'Germany');
      await fill('#organisation-currency', 'eur');
      await fill('#organisation-fullTime', '38,5');
      expect(await findings(page)).toEqual([]);
      await press(page, 'Begin the register');
      await sees(page, 'Nordhafen Fähren', '.recordhead');
      await sees(page, 'Nordhafen Fähren', '.organisation');
      await sees(page, 'nobody can be hired before', '.list');
      const kept = await one(
        running.owner,
        sql`select currency, full_time as "fullTime", time_zone as "timeZone", working_days as "workingDays"
          from organisation_version where superseded_by is null`,
      );
      expect(kept).toEqual({
        currency: 'EUR',
        fullTime: 3850,
        timeZone: 'Europe/Helsinki',
        workingDays: ['mon', 'tue', 'wed', 'thu', 'fri'],
      });
    }));

  test('the first unit, with the legal entity and the location added where they are missing', () =>
    kept(page, 'first-unit', async () => {
      await at('/structure/outline');
      await press(page, 'Record the first unit');
      await fill(slip('name'), 'Nordhafen');
      await choose(slip('kindId'), 'Company');
      await day(slip('firstDay'), '1.1.2026');
      await openMore();
      await addInPlace('legalEntityId', 'Nordhafen GmbH', async () => {
        await choose('.addentry #legal_entity-country', 'Germany');
        await fill('.addentry #legal_entity-currency', 'EUR');
      });
      await addInPlace('locationId', 'Westkai', async () => {
        await fill('.addentry #location-city', 'Kiel');
        await choose('.addentry #location-country', 'Germany');
        await fill('.addentry #location-timeZone', 'Europe/Berlin');
      });
      expect(await page.$eval(slip('name'), (input) => (input as HTMLInputElement).value)).toBe('Nordhafen');
      await complete('Nordhafen');
    }));

  test('five more on three levels, one of a kind that is added in its place', () =>
    kept(page, 'first-branch', async () => {
      const units: [string, string, string][] = [
        ['Flotte', 'Nordhafen', 'Division'],
        ['Hafen', 'Nordhafen', 'Division'],
        ['MS Möwe', 'Flotte', 'Vessel'],
        ['MS Seeadler', 'Flotte', 'Vessel'],
        ['Abfertigung', 'Hafen', 'Team'],
      ];
      for (const [name, above, kind] of units) {
        await at(`/structure/units/${await unitId(above)}`);
        await press(page, 'New unit below');
        await fill(slip('name'), name);
        if (name === 'MS Möwe')
          await addInPlace('kindId', kind, () => fill('.addentry input[aria-label="In German"]', 'Schiff'));
        else await choose(slip('kindId'), kind);
        await day(slip('firstDay'), '1.1.2026');
        // in the port a job is enough
        if (name === 'Hafen') await choose(slip('hiresNeedPosition'), 'no');
        await complete(name);
      }
      const { n } = await one<{ n: number }>(
        running.owner,
        sql`select count(*)::int as n from unit_version where superseded_by is null`,
      );
      expect(n).toBe(6);
    }));

  test('a position of a job that is added in its place, and a hire into it with a title that is', () =>
    kept(page, 'first-hire', async () => {
      await at(`/structure/units/${await unitId('MS Möwe')}`);
      await press(page, 'New position');
      await addInPlace('jobId', 'Kapitän', () => choose('.addentry #job-workerTypeId', 'Employee'));
      await day(slip('firstDay'), '1.2.2026');
      await complete('Kapitän');
      const { id } = await one<{ id: number }>(
        running.owner,
        sql`select position_id as id from position_version where superseded_by is null`,
      );
      await at(`/structure/positions/${id}`);
      await press(page, 'Hire');
      await fill(slip('person-name-given'), 'Jörg');
      await fill(slip('person-name-family'), 'Weiß');
      await fill(slip('person-contacts-0-value'), 'joerg@nordhafen.example');
      await day(slip('firstDay'), '1.3.2026');
      await fill(slip('pay-0-amount'), '4.850,00');
      await openMore();
      await addInPlace('person-name-titleId', 'Kapitän zur See', async () => undefined);
      await complete('Jörg Weiß');
    }));

  test('a hire by a job alone, where hires need no position; one planned for later', () =>
    kept(page, 'first-hire-by-job', async () => {
      const hires: [string, string][] = [
        ['Ana', '1.4.2026'],
        ['Bo', '1.2.2027'],
      ];
      for (const [given, first] of hires) {
        await at(`/structure/units/${await unitId('Abfertigung')}`);
        await press(page, 'Hire');
        await fill(slip('person-name-given'), given);
        await fill(slip('person-contacts-0-value'), '+49 431 5550');
        await day(slip('firstDay'), first);
        if (given === 'Ana')
          await addInPlace('jobId', 'Agentin', () => choose('.addentry #job-workerTypeId', 'Employee'));
        else await choose(slip('jobId'), 'Agentin');
        await complete(given);
      }
      // into the unit above, which has units below: said, and those are named
      await at(`/structure/units/${await unitId('Hafen')}`);
      await press(page, 'Hire');
      await fill(slip('person-name-given'), 'Cy');
      await fill(slip('person-contacts-0-value'), '+49 431 5551');
      await choose(slip('jobId'), 'Agentin');
      await sees(page, 'Abfertigung', '.slipstops');
      await press(page, 'Discard');
    }));

  test('two more lists are filled on their page', () =>
    kept(page, 'first-lists', async () => {
      for (const [list, entry] of [
        ['agreement', 'Seetarif'],
        ['skill', 'Maschinenkunde'],
      ] as const) {
        await at(`/setup/lists/${list}?add=1`);
        await fill('input[aria-label="Label"]', entry);
        await press(page, 'Add');
        await sees(page, `${entry} added`, '.savedline');
      }
    }));

  test('in the outline: nothing before it began, one at work on the vessel today, one more later', () =>
    kept(page, 'first-outline', async () => {
      await at('/structure/outline?on=2025-12-31');
      await sees(page, 'No unit is in effect on this day.');
      await at('/structure/outline');
      await sees(page, '6 units, 3 levels');
      const people = async () =>
        page.$$eval('.outline [role="row"], .outline tbody tr', (rows) =>
          rows.flatMap((row) => (row as HTMLElement).innerText.replace(/\s+/g, ' ').trim()),
        );
      const lineOf = async (name: string) => (await people()).find((line) => line.includes(name)) ?? '';
      expect(await lineOf('Nordhafen')).toMatch(/Nordhafen.* 2 2\.00/);
      await at('/structure/outline?on=2027-02-01');
      await sees(page, '6 units, 3 levels');
      expect(await lineOf('Nordhafen')).toMatch(/Nordhafen.* 3 3\.00/);
      expect(await lineOf('Hafen')).toMatch(/Hafen.* 2 2\.00/);
      // compared with a count of our own
      const counts = await many<{ on: string; n: number }>(
        running.owner,
        sql`select d::text as on, count(*)::int as n from unnest('{2025-12-31,2026-11-23,2027-02-01}'::date[]) d
          join placement_version v on v.superseded_by is null and v.valid_from <= d and d < v.valid_until group by 1 order by 1`,
      );
      expect(counts).toEqual([
        { on: '2026-11-23', n: 2 },
        { on: '2027-02-01', n: 3 },
      ]);
      expect(await findings(page)).toEqual([]);
    }));
});
