// What is typed is said back before it is saved, in both languages; an earlier moment is for reading; what somebody else changed
// meanwhile is shown; a correction is undone by itself.
import { afterAll, afterEach, beforeAll, describe, expect, test } from '@jest/globals';
import { type HireInput, endpoints, movementOf } from '@gremium/contract';
import type { Browser, Page } from 'puppeteer-core';
import {
  type Client,
  type Running,
  asDemo,
  many,
  newcomer,
  one,
  sql,
  startServer,
  vacantPosition,
} from '../server/test/harness';
import { de } from '../web/src/texts/de';
import { en } from '../web/src/texts/en';
import { goTo, kept, openBrowser, openPage, press, reload, sees, signInPage } from './browser';

let running: Running;
let browser: Browser;
let admin: Client;
let page: Page;
beforeAll(async () => {
  running = await startServer('demo');
  browser = await openBrowser();
  admin = await asDemo(running.address, 'admin');
  page = await openPage(browser);
  await signInPage(page, running.address, 'Tuuli');
});
afterEach(() => inLanguage(page, 'en'));
afterAll(async () => {
  await browser.close();
  await running.close();
});

/** Types into a field of the slip or of a section by its label, in place of what stands there. */
const fill = async (page: Page, label: string, text: string): Promise<void> => {
  const input = await page.waitForSelector(`::-p-aria([name="${label}"][role="textbox"])`, {
    timeout: 120_000,
  });
  await input!.click({ count: 3 });
  await page.keyboard.press('Backspace');
  await page.keyboard.type(text);
};
const understood = (page: Page, where: string): Promise<string> =>
  page.$eval(where, (element) => (element as HTMLElement).innerText.replace(/\s+/g, ' ').trim());

const inLanguage = async (page: Page, language: 'en' | 'de'): Promise<void> => {
  await page.evaluate((chosen: string) => localStorage.setItem('gremium-language', chosen), language);
};

// Spellings of amounts with what a slip and a section say of each: an amount, a question, or that it cannot be read.
const SPELLINGS: [string, string, string][] = [
  ['2950', '2,950.00', '2.950,00'],
  ['2,950', '2,950.00', '?'],
  ['2.950', '?', '2.950,00'],
  ['2 950,50', '2,950.50', '2.950,50'],
  ["2'950.5", '2,950.50', '2.950,50'],
  ['2,950.50', '2,950.50', '2.950,50'],
  ['2.950,50', '2,950.50', '2.950,50'],
  ['29,5', '29.50', '29,50'],
  ['abc', '!', '!'],
];

const said = (text: string): string => {
  if (/cannot|nicht als Zahl|not read/i.test(text)) return '!';
  return text.startsWith('!') ? '?' : (text.split(' ')[0] as string);
};

describe('amounts', () => {
  test.each(['en', 'de'] as const)(
    'in %s are said back in slip and section as they are taken',
    async (language) => {
      const texts = language === 'de' ? de : en;
      const position = await vacantPosition(running, admin);
      await kept(page, `amounts-${language}`, async () => {
        await inLanguage(page, language);
        await goTo(page, `${running.address}/structure/positions/${position}?on=2027-01-01`);
        await press(page, movementOf('hire').act[language]);
        await page.waitForSelector('.slip form input');
        const label = await page.$eval(
          '.slip input[id$="amount"]',
          (input) => document.querySelector(`label[for="${CSS.escape(input.id)}"]`)?.textContent ?? '',
        );
        const found: string[][] = [];
        for (const [text] of SPELLINGS) {
          await fill(page, label, text);
          await page.waitForSelector('.slip .understood, .slip .source.brick');
          found.push([text, said(await understood(page, '.slip .understood, .slip .source.brick'))]);
        }
        expect(found).toEqual(
          SPELLINGS.map(([text, english, german]) => [text, language === 'en' ? english : german]),
        );
        // what cannot be read stops the slip, and is not dropped
        expect(
          await page.$eval('.slipfoot .ant-btn-primary', (button) => (button as HTMLButtonElement).disabled),
        ).toBe(true);
        await press(page, texts.slip.discard);

        const [paid] = await many<{ person: number }>(
          running.owner,
          sql`select e.person_id as person from employment_version e
          join pay_version p on p.employment_id = e.employment_id and p.superseded_by is null and p.valid_until = 'infinity' and p.currency = 'EUR' and p.basis = 'month'
          where e.superseded_by is null and e.valid_until = 'infinity' order by e.person_id limit 1`,
        );
        await goTo(page, `${running.address}/people/${paid!.person}?on=2027-01-01`);
        await press(page, texts.edit.changeSection.replace('{{section}}', texts.section.pay));
        const section: string[][] = [];
        for (const [text] of SPELLINGS) {
          await fill(page, texts.field.amount, text);
          await page.waitForSelector('[data-section=pay] .understood, [data-section=pay] .source.brick');
          section.push([
            text,
            said(await understood(page, '[data-section=pay] .understood, [data-section=pay] .source.brick')),
          ]);
        }
        expect(section).toEqual(found);
        expect(
          await page.$eval('.savebar .ant-btn-primary', (button) => (button as HTMLButtonElement).disabled),
        ).toBe(true);
        await press(page, texts.edit.discard);
      });
    },
  );

  test('far from what was paid need a word, are corrected, and the chronicle undoes the correction alone', async () => {
    const position = await vacantPosition(running, admin, '%Vess%');
    const kinds = await admin.call(endpoints.records, {
      params: { kind: 'list_entry' },
      query: { limit: 1000 },
    });
    const kindId = kinds.rows.find(({ values }) => values['code'] === 'BASE')!.thing;
    const { inherited } = await admin.call(endpoints.positionRecord, { params: { id: position }, query: {} });
    const { currency } = await one<{ currency: string }>(
      running.owner,
      sql`select currency from legal_entity_version where legal_entity_id = ${inherited.legalEntityId} and superseded_by is null limit 1`,
    );
    const pay = [{ kindId, amount: '3000', currency, basis: 'month', rate: 'full_time' }];
    const input = {
      person: newcomer('Payfar'),
      positionId: position,
      firstDay: '2026-11-23',
      pay,
      reasonId: null,
    } as unknown as HireInput;
    const words = { pay_outside_range: 'as agreed' };
    const { personId } = await admin.call(endpoints.move, { body: { kind: 'hire', input, words } });
    await kept(page, 'pay-far', async () => {
      await goTo(page, `${running.address}/people/${personId}`);
      await press(page, 'Change Pay');
      await press(page, 'It was recorded wrongly');
      await fill(page, 'Amount', '26,400');
      await sees(page, `26,400.00 ${currency} a month, +780.0 %`, '[data-section=pay]');
      await press(page, 'Save Pay');
      await sees(page, 'much more, or much less', '.savebar');
      for (const input of await page.$$('.savebar .word')) await input.type('Yes, as agreed');
      await press(page, 'Save Pay');
      await page.waitForFunction(() => !document.querySelector('.savebar'));
      await sees(page, 'Corrected: Pay', '.chronicle');
      await sees(page, 'Amount 3,000 → 26,400', '.chronicle .correction');
      const last = await one<{ row: number; entry: number; pay: number }>(
        running.owner,
        sql`select v.id as row, r.number as entry, v.pay_id as pay from pay_version v
          join entry r on r.id = v.recorded_by
          where v.superseded_by is null and v.employment_id in (
            select employment_id from employment_version where person_id = ${personId})`,
      );
      await admin.call(endpoints.editRecord, {
        params: { kind: 'pay', id: last.pay, section: 'pay' },
        body: {
          edit: { mode: 'mend', row: last.row, values: { amount: '2640' } },
          basedOn: last.entry,
          words: { ...words, pay_jump: 'a point was lost' },
        },
      });
      // a correction of the position held is told in its own record
      const { rows, lastEntries } = await admin.call(endpoints.positionRecord, {
        params: { id: position },
        query: {},
      });
      const held = rows.find((row) => row.section === 'position')!;
      await admin.call(endpoints.editRecord, {
        params: { kind: 'position', id: position, section: 'position' },
        body: {
          edit: { mode: 'mend', row: held.id, values: { title: `${String(held.values['title'])} Payfar` } },
          basedOn: lastEntries.find(({ section }) => section === 'position')!.number,
        },
      });
      await reload(page);
      await sees(page, 'Amount 26,400 → 2,640', '.chronicle .correction');
      const lines = await page.$$eval('.chronicle .correction div:nth-child(2)', (all) =>
        all.map((one) => one.textContent?.replace(/.*Amount/, 'Amount')),
      );
      expect(lines).toEqual(['Amount 26,400 → 2,640', 'Amount 3,000 → 26,400']);
      await page.evaluate(() =>
        document.querySelector<HTMLElement>('.chronicle .correction button')?.click(),
      );
      await sees(page, 'One entry', '.slip');
      expect(await page.$$eval('.undo-plan li b', (all) => all.map((one) => one.textContent))).toEqual([
        'Corrected: Pay of Nova Payfar',
      ]);
      await press(page, 'Undo this entry');
      await page.waitForFunction(() => document.querySelectorAll('.chronicle .correction').length === 1);
      await sees(page, '26,400', '#section-pay');
    });
  });
});

describe('an earlier moment', () => {
  test('is for reading: no act is offered, an open slip waits, one button goes back to now', async () => {
    const position = await vacantPosition(running, admin, '%Harbour%');
    const { moment } = await one<{ moment: string }>(
      running.owner,
      sql`select to_char(moment at time zone 'utc', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"') as moment from journal_head`,
    );
    await kept(page, 'earlier-moment', async () => {
      await goTo(page, `${running.address}/structure/positions/${position}?on=2027-01-01`);
      await press(page, 'Hire');
      await page.waitForSelector('.slip form input');
      await fill(page, 'Given name', 'Early');
      await fill(page, 'Email or phone', 'early@new.example');
      await page.waitForFunction(() => !document.querySelector('.slipfoot .ant-btn-primary[disabled]'));
      const open = new URL(page.url());
      open.searchParams.set('known', moment);
      await goTo(page, open.href);
      await sees(page, 'As recorded by', '.lensline');
      await sees(page, 'At an earlier moment nothing can be changed', '.slipfoot');
      expect(
        await page.$eval('.slipfoot .ant-btn-primary', (button) => (button as HTMLButtonElement).disabled),
      ).toBe(true);
      const acts = await page.$$eval('.recordhead .acts button, .block .act button', (all) =>
        all.map((one) => one.textContent),
      );
      expect(acts).toEqual([]);
      await press(page, 'Go to now to change.');
      await page.waitForFunction(() => !document.querySelector('.slipfoot .ant-btn-primary[disabled]'));
      expect(new URL(page.url()).searchParams.has('known')).toBe(false);
    });
  });

  test('of what a slip was prepared from is said: what changed meanwhile stands there, and it is completed again', async () => {
    const position = await vacantPosition(running, admin, '%Vess%');
    await kept(page, 'movement-conflict', async () => {
      await goTo(page, `${running.address}/structure/positions/${position}?on=2027-01-01`);
      await press(page, 'Hire');
      await page.waitForSelector('.slip form input');
      await fill(page, 'Given name', 'Late');
      await fill(page, 'Family name', 'Comer');
      // the last preview is in before somebody else writes: one asked for later would have seen what they wrote
      const previewed = page.waitForResponse((response) =>
        /late\.comer@new\.example.*"preview":true/.test(response.request().postData() ?? ''),
      );
      await fill(page, 'Email or phone', 'late.comer@new.example');
      await previewed;
      await sees(page, 'Reports to', '.effects');
      const { sections } = await admin.call(endpoints.record, { params: { kind: 'position', id: position } });
      const { lastEntry } = sections.find(({ name }) => name === 'position')!;
      await admin.call(endpoints.editRecord, {
        params: { kind: 'position', id: position, section: 'position' },
        body: {
          edit: {
            mode: 'set',
            from: '2026-12-01' as never,
            values: { title: 'Quite another title' },
            override: false,
          },
          basedOn: lastEntry,
        },
      });
      await press(page, 'Complete hire now, from 1 Jan 2027');
      await sees(page, 'changed what this was prepared from', '.slip .conflict');
      await sees(page, 'Quite another title', '.slip .conflict');
      await page.waitForFunction(
        () => !document.querySelector('.slipfoot .ant-btn-primary[disabled], .slipfoot .ant-btn-loading'),
      );
      // what is shown now was worked out after it
      await press(page, 'Complete hire now, from 1 Jan 2027');
      await sees(page, 'In effect from 1 Jan 2027', '.slip');
    });
  });
});
