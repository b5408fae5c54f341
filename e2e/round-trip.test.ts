// Email addresses of the harbours taken out in the layout that is taken in again, three of them changed in the file, taken in; a
// register's files taken out together; a file that is stopped.
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, test } from '@jest/globals';
import { parse } from 'csv-parse/sync';
import { stringify } from 'csv-stringify/sync';
import { many, sql } from '../server/test/harness';
import { findings, goTo, kept, press, sees } from './browser';
import { type Story, story } from './story';

let running: Story['running'];
let page: Story['page'];
story((told) => ({ running, page } = told));

let acts = 0;
const act = async (name: string) => {
  acts++;
  await press(page, name);
};
const folder = mkdtempSync(path.join(os.tmpdir(), 'gremium-round-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** The file that comes of a press, once it is there whole. */
const downloaded = async (ending: string): Promise<string> => {
  for (let i = 0; i < 300; i++) {
    const name = readdirSync(folder).find((one) => one.endsWith(ending));
    if (name) return path.join(folder, name);
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error(`no ${ending} came`);
};

describe('out, changed, and in again', () => {
  test(
    'three of the addresses of one kind are changed in a file, in at most 12 acts',
    () =>
      kept(page, 'round-trip', async () => {
        const session = await page.createCDPSession();
        await session.send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: folder });
        await goTo(page, `${running.address}/reports/shelf`);
        await act('New report');
        await page.waitForSelector('#report-subject');
        acts++;
        await page.click('#report-subject');
        await page.keyboard.type('Contacts');
        await page.waitForFunction(() =>
          [...document.querySelectorAll('.ant-select-item-option-active')].some(
            (option) => option.textContent === 'Contacts',
          ),
        );
        await page.keyboard.press('Enter');
        await page.waitForFunction(() => document.body.innerText.includes('Address or number'));
        await act('as text');
        acts++;
        await page.click('.conditiontext', { count: 3 });
        await page.keyboard.type('contact.kind == "email" && contact.value.contains("saar")');
        const people = await many<{ value: string }>(
          running.owner,
          sql`select value from contact_version where kind = 'email' and value like '%saar%' and superseded_by is null
          and valid_from <= '2026-11-23' and valid_until > '2026-11-23' order by value`,
        );
        await sees(page, `${people.length} match`, '.counts');
        acts++;
        await page.evaluate(() => {
          const boxes = [...document.querySelectorAll<HTMLElement>('.takeouts .ant-checkbox-wrapper')];
          boxes[0]?.click();
        });
        expect(await findings(page)).toEqual([]);
        await act('CSV');
        const file = await downloaded('.csv');
        const lines = parse(readFileSync(file), { bom: true }) as string[][];
        expect(lines.length).toBe(people.length + 1);
        const at = (lines[0] as string[]).indexOf('Address or number');
        for (const i of [1, 2, 3]) (lines[i] as string[])[at] = `saar${i}@moved.example`;
        writeFileSync(file, stringify(lines));
        acts++;
        await goTo(page, `${running.address}/files/imports`);
        acts++;
        const input = await page.waitForSelector('#file-to-take-in');
        await (input as unknown as { uploadFile: (name: string) => Promise<void> }).uploadFile(file);
        await sees(page, '3 rows will be written as one entry');
        await sees(page, 'Its rows are about');
        expect(await findings(page)).toEqual([]);
        await act('Write 3');
        await sees(page, '3 rows were written');
        expect(acts).toBeLessThanOrEqual(12);
        const moved = await many<{ value: string; from: string }>(
          running.owner,
          sql`select value, valid_from::text as from from contact_version where value like '%moved.example' and superseded_by is null order by value`,
        );
        expect(moved).toEqual(
          [1, 2, 3].map((i) => ({ value: `saar${i}@moved.example`, from: '2026-11-23' })),
        );
      }),
    90_000,
  );

  test(
    'whole subjects together are one ZIP; it stands in the list of what was taken out, and is deleted there',
    () =>
      kept(page, 'taken-out', async () => {
        await goTo(page, `${running.address}/files/taken-out`);
        await page.click('#take-out-subjects');
        for (const name of ['Unit', 'Grade']) {
          await page.keyboard.type(name);
          await page.keyboard.press('Enter');
        }
        await page.keyboard.press('Escape');
        await press(page, 'CSV');
        await downloaded('.zip');
        await sees(page, 'kept until 23 Dec 2026');
        expect(await findings(page)).toEqual([]);
        await press(page, 'delete');
        await sees(page, 'no longer kept');
      }),
    60_000,
  );
});
