import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Browser, Page } from 'puppeteer-core';
import { type Running, asDemo, startServer, vacantPosition } from '../server/test/harness';
import { goTo, kept, openBrowser, openPage, press, sees, signInPage, tabTo } from './browser';

let running: Running;
let browser: Browser;
let page: Page;
beforeAll(async () => {
  running = await startServer('demo');
  browser = await openBrowser();
});
afterAll(async () => {
  await browser.close();
  await running.close();
});

const FIRST = '2026-12-01';
const DAY_BEFORE = '2026-11-30';
const LATER = '2027-02-01';

/** People, FTE and filled positions of the whole organisation as the outline shows them on the page. */
const topRow = async (
  at: Page,
  on: string,
  more = '',
): Promise<{ people: number; fte: number; filled: number }> => {
  await goTo(at, `${running.address}/structure/outline?on=${on}${more}`);
  await at.waitForSelector('.top-unit td:nth-child(3)');
  return at.evaluate(() => {
    const cell = (n: number) => document.querySelector(`.top-unit td:nth-child(${n})`)?.textContent ?? '';
    const number = (text: string) => Number(text.replace(/[^\d.]/g, ''));
    return {
      people: number(cell(3)),
      fte: number(cell(4)),
      filled: number(document.querySelector('.top-unit .m')?.textContent ?? ''),
    };
  });
};

const planSaid = (at: Page): Promise<string[]> =>
  at.$$eval('.undo-plan li b', (lines) => lines.map((line) => line.textContent ?? ''));

// Enter follows the last letter at once: it means what is found for the whole text, however late that comes.
const findAndOpen = async (at: Page, text: string): Promise<void> => {
  await at.keyboard.down('Control');
  await at.keyboard.press('k');
  await at.keyboard.up('Control');
  await at.waitForSelector('.find-or-do input');
  await at.keyboard.type(text);
  await at.keyboard.press('Enter');
  await at.waitForSelector('.find-or-do', { hidden: true });
};

describe('hire, transfer and undo', () => {
  test('a planned position is set in force, somebody is hired into it, moves on, and all of it is undone', async () => {
    page = await openPage(browser);
    const target = await vacantPosition(running, await asDemo(running.address, 'admin'), '%Harbour%');
    await kept(page, 'hire-transfer-undo', async () => {
      await signInPage(page, running.address, 'Tuuli');
      const before = await topRow(page, FIRST);
      const dayBefore = await topRow(page, DAY_BEFORE);
      const later = await topRow(page, LATER);

      // set the planned position in force, from today
      await goTo(page, running.address);
      await findAndOpen(page, 'P-N2');
      await sees(page, 'planned', '.recordhead');
      await press(page, 'Set in force');
      await press(page, 'Complete change now');
      await sees(page, 'in force', '.recordhead .standing');
      await press(page, 'Close the slip');

      // hire from the 1st of next month: five entries beyond the name at most
      await page.click('.lens .day');
      await page.waitForSelector('#lens-day');
      await page.type('#lens-day', '1 Dec 2026');
      await page.keyboard.press('Enter');
      await sees(page, 'You see 1 Dec 2026', '.lensline');
      await press(page, 'Hire');
      await page.waitForSelector('.slip form');
      const asked = await page.$$eval(
        '.slipbody > div > .slipfield label, .slipbody > div > .pair label',
        (labels) => labels.map((label) => label.textContent),
      );
      expect(asked).toEqual([
        'Given name',
        'Family name',
        'Email or phone',
        'First day',
        'Pay a month',
        'Contract',
        'Reason',
      ]);
      const field = async (label: string, text: string) => {
        const id = await page.$$eval(
          '.slip label',
          (labels, wanted) => labels.find((one) => one.textContent === wanted)?.getAttribute('for'),
          label,
        );
        await page.type(`[id="${id}"]`, text);
      };
      await field('Given name', 'Ylva');
      await field('Family name', 'Nystrand');
      await field('Email or phone', 'ylva.nystrand@new.example');
      await sees(page, 'Nobody is asked', '.slipfoot');
      await sees(page, 'Reports to', '.effects');
      await press(page, 'Complete hire now, from 1 Dec 2026');
      await sees(page, 'In effect from 1 Dec 2026', '.slip');
      await press(page, 'Close the slip');
      await page.waitForSelector('.recordhead .mark-filled');

      const after = await topRow(page, FIRST);
      expect(after).toEqual({ people: before.people + 1, fte: before.fte + 1, filled: before.filled + 1 });
      expect(await topRow(page, DAY_BEFORE)).toEqual(dayBefore);

      // transfer
      await findAndOpen(page, 'ylva nystrand');
      await sees(page, 'Ylva Nystrand', 'h1');
      const record = page.url();
      await goTo(page, record.replace(DAY_BEFORE, LATER).replace(FIRST, LATER));
      await sees(page, 'Ylva Nystrand', 'h1');
      await press(page, 'Transfer');
      await page.waitForSelector('.slip form');
      const code = await codeOf(target);
      await field('To which position', code);
      await sees(page, code, '.ant-select-item-option-active');
      await page.keyboard.press('Enter');
      await sees(page, 'from the position', '.slip');
      await press(page, 'Complete transfer now, from 1 Feb 2027');
      await sees(page, 'In effect from 1 Feb 2027', '.slip');
      await press(page, 'Close the slip');

      // undo the hire from the chronicle: the transfer goes first
      await sees(page, 'Joined', '.chronicle');
      await page.evaluate(() =>
        [...document.querySelectorAll<HTMLElement>('.chronicle button')]
          .find((button) => button.getAttribute('aria-label')?.startsWith('Undo: Joined'))
          ?.click(),
      );
      await sees(page, '2 entries, in this order', '.slip');
      expect(await planSaid(page)).toEqual(['Transfer: Ylva Nystrand', 'Hire: Ylva Nystrand']);
      await press(page, 'Undo 2 entries');
      await sees(page, 'are undone together', '.slip');
      expect(await topRow(page, FIRST)).toEqual(before);
      expect(await topRow(page, LATER)).toEqual(later);

      // the journal shows all of it, and as recorded by before the undo the hire still stands
      await goTo(page, `${running.address}/setup/journal`);
      await page.waitForSelector('.li .a');
      const lines = await page.$$eval('.li', (all) =>
        all.slice(0, 4).map((line) => (line as HTMLElement).innerText.replace(/\s+/g, ' ')),
      );
      expect(lines[0]).toContain('Undo');
      expect(lines[1]).toMatch(/Transfer .*undone/);
      expect(lines[2]).toMatch(/Hire .*undone/);
      expect(lines[3]).toContain('Change');
      await page.click('.li');
      await press(page, 'See the register as recorded before it');
      await sees(page, 'As recorded by', '.lensline');
      const known = new URL(page.url()).searchParams.get('known') ?? '';
      expect(await topRow(page, FIRST, `&known=${known}`)).toEqual(after);
    });
  });

  test('the same by keyboard alone', async () => {
    page = await openPage(browser);
    const at = page;
    const target = await codeOf(
      await vacantPosition(running, await asDemo(running.address, 'admin'), '%Vess%'),
    );
    await kept(at, 'keyboard', async () => {
      await at.goto(`${running.address}/structure/outline`);
      await at.waitForSelector('.app, .demo button');
      if (await at.$('.demo button')) {
        await tabTo(at, 'Tuuli');
        await at.keyboard.press('Enter');
      }
      await at.waitForSelector('.top-unit');
      await findAndOpen(at, 'P-N3');
      await sees(at, 'planned', '.recordhead');
      await tabTo(at, 'Set in force');
      await at.keyboard.press('Enter');
      await at.waitForSelector('.slip form');
      await tabTo(at, 'Complete change now');
      await at.keyboard.press('Enter');
      await sees(at, 'in force', '.recordhead .standing');
      await sees(at, 'In effect from', '.slip');
      await at.keyboard.press('Enter');

      // the lens as a slider: to the first of next month
      await tabTo(at, 'Day looked at');
      for (let n = 0; n < 8; n++) await at.keyboard.press('ArrowRight');
      await sees(at, 'You see 1 Dec 2026', '.lensline');
      await at.waitForSelector('.recordhead .mark-vacant');
      await at.keyboard.press('h');
      await at.waitForSelector('.slip form input');
      await at.waitForFunction(() => document.activeElement?.closest('.slip') !== null);
      await at.keyboard.type('Ture');
      await at.keyboard.press('Tab');
      await at.keyboard.type('Backlund');
      await at.keyboard.press('Tab');
      // Enter before the checks have come: they are made all the same, and what they stop can be mended
      await at.keyboard.type('ture.backlund@');
      await at.keyboard.press('Enter');
      await sees(at, 'ture.backlund@ does not look right', '.slip');
      await at.keyboard.type('new.example');
      await at.waitForFunction(() => !document.querySelector('.slipfoot .ant-btn-primary[disabled]'));
      await at.keyboard.press('Enter');
      await sees(at, 'In effect from 1 Dec 2026', '.slip');
      await at.keyboard.press('Enter');
      await at.waitForSelector('.recordhead .mark-filled');

      await findAndOpen(at, 'transfer ture back');
      await at.waitForSelector('.slip form');
      await tabTo(at, 'To which position');
      await at.keyboard.type(target);
      await sees(at, target, '.ant-select-item-option-active');
      await at.keyboard.press('Enter');
      await tabTo(at, 'First day');
      await at.keyboard.down('Control');
      await at.keyboard.press('a');
      await at.keyboard.up('Control');
      await at.keyboard.type('1 Feb 2027');
      await at.keyboard.press('Enter');
      await tabTo(at, 'Complete transfer now, from 1 Feb 2027');
      await at.keyboard.press('Enter');
      await sees(at, 'In effect from 1 Feb 2027', '.slip');
      await at.keyboard.press('Enter');

      await sees(at, 'Joined', '.chronicle');
      await tabTo(at, 'Undo: Joined');
      await at.keyboard.press('Enter');
      await sees(at, '2 entries, in this order', '.slip');
      expect(await planSaid(at)).toEqual(['Transfer: Ture Backlund', 'Hire: Ture Backlund']);
      await tabTo(at, 'Undo 2 entries');
      await at.keyboard.press('Enter');
      await sees(at, 'are undone together', '.slip');
    });
  });
});

const codeOf = async (position: number): Promise<string> => {
  const { rows } = await running.owner.query<{ code: string }>(
    'select code from position_version where position_id = $1 and superseded_by is null order by valid_from desc limit 1',
    [position],
  );
  return rows[0]?.code ?? '';
};
