import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { endpoints } from '@gremium/contract';
import type { Browser, Page } from 'puppeteer-core';
import { type Running, asDemo, startServer, vacantPosition } from '../server/test/harness';
import { goTo, kept, openBrowser, openPage, press, sees, signInPage, takeOption } from './browser';

let running: Running;
let browser: Browser;
beforeAll(async () => {
  running = await startServer('demo');
  browser = await openBrowser();
});
afterAll(async () => {
  await browser.close();
  await running.close();
});

const valueOf = (page: Page, label: string): Promise<string> =>
  page.$$eval(
    '.slip label',
    (labels, wanted) => {
      const id = labels.find((one) => one.textContent === wanted)?.getAttribute('for') ?? '';
      return (document.getElementById(id) as HTMLInputElement | null)?.value ?? '';
    },
    label,
  );

describe('what is being written', () => {
  test('survives a closed browser, and its address opens the same record, date and slip in another', async () => {
    const position = await vacantPosition(running, await asDemo(running.address, 'admin'));
    const page = await openPage(browser);
    const address = await kept(page, 'draft', async () => {
      await signInPage(page, running.address, 'Tuuli');
      await page.goto(`${running.address}/structure/positions/${position}?on=2027-01-01`);
      await press(page, 'Hire');
      await page.waitForSelector('.slip form input');
      await page.waitForFunction(() => document.activeElement?.closest('.slip') !== null);
      await page.keyboard.type('Åse');
      await page.keyboard.press('Tab');
      await page.keyboard.type('Lindholm');
      await sees(page, 'Draft kept', '.sliphead');
      await page.keyboard.press('Tab');
      await page.keyboard.type('aase@new.example');
      return page.url();
    });
    // gone at once, without leaving politely
    await browser.close();

    browser = await openBrowser();
    const other = await openPage(browser);
    await kept(other, 'draft-elsewhere', async () => {
      await signInPage(other, running.address, 'Tuuli');
      await other.goto(address);
      await sees(other, 'You see 1 Jan 2027', '.lensline');
      await sees(other, 'Åse Lindholm', '.sliphead');
      expect(new URL(other.url()).pathname).toBe(`/structure/positions/${position}`);
      expect(await valueOf(other, 'First day')).toBe('1 Jan 2027');
      expect(await valueOf(other, 'Given name')).toBe('Åse');
    });

    // another account neither sees the draft nor can take it over
    const key = new URL(address).searchParams.get('slip') ?? '';
    const fleet = await asDemo(running.address, 'fleet');
    expect((await fleet.call(endpoints.movements, {})).movements).toEqual([]);
    await fleet.call(endpoints.discardMovement, { params: { key } });
    const admin = await asDemo(running.address, 'admin');
    const { movements: drafts } = await admin.call(endpoints.movements, {});
    expect(drafts.map((draft) => draft.key)).toContain(key);
  });

  test('two people save the same section: both versions stand side by side, and neither is lost', async () => {
    const admin = await asDemo(running.address, 'admin');
    const { people } = await admin.call(endpoints.people, { query: { limit: 1 } });
    const id = people[0]!.id;
    const open = async (context: Browser): Promise<Page> => {
      const page = await (await context.createBrowserContext()).newPage();
      await page.setViewport({ width: 1280, height: 800 });
      await signInPage(page, running.address, 'Tuuli');
      await goTo(page, `${running.address}/people/${id}`);
      await press(page, 'Change Names');
      await page.waitForSelector('[data-section=person_name] input');
      return page;
    };
    const typeName = async (page: Page, label: string, text: string) => {
      await page.focus(`[data-section=person_name] input[aria-label="${label}"]`);
      await page.keyboard.type(text);
    };
    const mine = await open(browser);
    await kept(mine, 'conflict', async () => {
      await typeName(mine, 'Preferred name', 'Mine');
      // somebody else, over HTTP, meanwhile
      const { sections } = await admin.call(endpoints.record, { params: { kind: 'person', id }, query: {} });
      const names = sections.find(({ name }) => name === 'person_name')!;
      await admin.call(endpoints.editRecord, {
        params: { kind: 'person', id, section: 'person_name' },
        body: {
          edit: { mode: 'set', from: '2026-11-23' as never, values: { preferred: 'Theirs', middle: 'Ella' } },
          basedOn: names.lastEntry,
        },
      });
      await press(mine, 'Save Names');
      await sees(mine, 'Somebody saved this section meanwhile', '.conflict');
      const rows = await mine.$$eval('.conflict tbody tr', (lines) =>
        lines.map((line) => [...line.children].map((cell) => cell.textContent)),
      );
      expect(rows).toContainEqual(['Preferred name', '–', 'Theirs', 'Mine']);
      expect(rows).toContainEqual(['Middle name', '–', 'Ella', '–']);
      await press(mine, 'Keep mine over it');
      await press(mine, 'Save Names');
      await mine.waitForFunction(() => !document.querySelector('.savebar'));
      const after = await admin.call(endpoints.record, { params: { kind: 'person', id }, query: {} });
      const now = after.sections.find(({ name }) => name === 'person_name')!.rows.at(-1)!.values;
      expect(now).toMatchObject({ preferred: 'Mine', middle: 'Ella' });
    });
  });
});

describe('three sections of a record', () => {
  test('written and not saved outlive the browser, are saved as one entry from next month, and undone as one', async () => {
    const admin = await asDemo(running.address, 'admin');
    const { people } = await admin.call(endpoints.people, { query: { limit: 1, offset: 40 } });
    const id = people[0]!.id;
    const rowsOf = async () => (await admin.call(endpoints.personRecord, { params: { id } })).rows;
    const before = JSON.stringify(await rowsOf());
    const type = async (page: Page, section: string, label: string, text: string) => {
      await page.waitForSelector(`[data-section=${section}] [aria-label="${label}"]`);
      await page.click(`[data-section=${section}] [aria-label="${label}"]`);
      await page.keyboard.type(text);
    };
    const pick = async (page: Page, section: string, label: string, text: string) => {
      await type(page, section, label, text);
      await takeOption(page, text);
    };
    const page = await (await browser.createBrowserContext()).newPage();
    await page.setViewport({ width: 1280, height: 800 });
    await kept(page, 'three-sections', async () => {
      await signInPage(page, running.address, 'Tuuli');
      await goTo(page, `${running.address}/people/${id}?on=2026-12-01`);
      await press(page, 'Change Names');
      await type(page, 'person_name', 'Preferred name', 'Änni');
      // what nothing is recorded of stands at the end, maybe under the bar
      const add = (section: string, label: string) =>
        page.evaluate(
          (selector: string, wanted: string) => {
            const more = [...document.querySelectorAll<HTMLElement>('.addmore button')];
            const one =
              document.querySelector<HTMLElement>(selector) ??
              more.find((button) => button.textContent === wanted);
            one?.click();
          },
          `#section-${section} .addrow button`,
          label,
        );
      await add('emergency_contact', 'Emergency contact');
      await type(page, 'emergency_contact', 'Name', 'Øystein Ånes');
      await type(page, 'emergency_contact', 'Phone', '+47 40 11 22 33');
      await add('asset', 'Asset');
      await pick(page, 'asset', 'Kind', 'Key');
      await type(page, 'asset', 'Label', 'Locker 12');
      await type(page, 'asset', 'Given on', '2026-12-01');
      await page.keyboard.press('Tab');
      await sees(page, '3', '.savebar .figure');
      // the last letters are kept a moment after they were typed
      const isKept = async () =>
        JSON.stringify((await admin.call(endpoints.drafts, {})).drafts).includes('"givenOn":"2026-12-01"');
      for (let tries = 0; tries < 50 && !(await isKept()); tries++)
        await new Promise((resolve) => setTimeout(resolve, 100));
    });
    await browser.close();

    browser = await openBrowser();
    const other = await openPage(browser);
    await kept(other, 'three-sections-again', async () => {
      await signInPage(other, running.address, 'Tuuli');
      await goTo(other, `${running.address}/people/${id}?on=2026-12-01`);
      await sees(other, '3', '.savebar .figure');
      await press(other, 'Save from 1 Dec 2026');
      await other.waitForFunction(() => !document.querySelector('.savebar'));
      await sees(other, 'Øystein Ånes', '#section-emergency_contact');
      await sees(other, 'Locker 12', '#section-asset');
      await goTo(other, `${running.address}/people/${id}?on=2026-11-30`);
      const text = await other.$eval('.recordbody', (body) => body.textContent ?? '');
      for (const said of ['Änni', 'Øystein', 'Locker 12'])
        expect([said, text.includes(said)]).toEqual([said, false]);
    });
    const { entries } = await admin.call(endpoints.journal, { query: { limit: 1 } });
    const { number } = entries[0]!;
    const plan = await admin.patiently(endpoints.planUndo, { params: { number } });
    expect(plan.entries.map((entry) => entry.number)).toEqual([number]);
    await admin.call(endpoints.undo, { params: { number }, body: { plan: [number] } });
    const values = (rows: Awaited<ReturnType<typeof rowsOf>>) =>
      rows.map(({ section, from, until, values: said }) => [section, from, until, said]);
    expect(values(await rowsOf())).toEqual(values(JSON.parse(before) as never));
  });
});
