// An administrator takes in thirty people from a file with five kinds of faults, mends two rows in place, writes the good
// ones, takes the same file in again, and undoes it all.
import { rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { describe, expect, test } from '@jest/globals';
import { believed } from '../server/test/harness';
import { findings, kept, press, sees } from './browser';
import { type Story, story } from './story';

const FILE = 'demo/files/season-crew-faulty.csv';

let running: Story['running'];
let page: Story['page'];
story((told) => ({ running, page } = told));

const takeIn = async (file = FILE) => {
  const input = await page.waitForSelector('#file-to-take-in');
  await (input as unknown as { uploadFile: (path: string) => Promise<void> }).uploadFile(file);
};

/** The counts of the check, by their words. */
const counts = () =>
  page.$$eval('.importstep .figures > div', (parts) =>
    Object.fromEntries(
      parts.map((part) => [
        part.querySelector('dt')?.firstChild?.textContent ?? '',
        Number(part.querySelector('dd')?.textContent),
      ]),
    ),
  );

/** Waits until the check says so, nothing is worked on, and the table shows as many rows as are refused. */
const waitForCounts = (refused: number, fresh: number) =>
  page.waitForFunction(
    (wanted: string, rows: number) =>
      [...document.querySelectorAll('.importstep .figures dd')].map((dd) => dd.textContent).join() ===
        wanted &&
      !document.querySelector('.working') &&
      document.querySelectorAll('.repairgrid tbody tr').length === rows,
    { timeout: 120_000 },
    [30, fresh, 0, 30 - fresh - refused, refused].join(),
    refused,
  );

const faultyRows = () =>
  page.$$eval('.repairgrid tbody tr', (rows) =>
    rows.map((row) => [
      Number(row.querySelector('th')?.textContent),
      row.querySelector('.fault')?.textContent?.trim() ?? '',
    ]),
  );

describe('people from a file', () => {
  let before: string[];

  test('each faulty row says what is wrong; two are mended in place; the good ones are written', () =>
    kept(page, 'import', async () => {
      before = await believed(running);
      await press(page, 'In and out');
      await sees(page, 'Nothing has been taken in yet');
      await takeIn();
      await waitForCounts(7, 23);
      const rows = await faultyRows();
      expect(rows.map(([row]) => row)).toEqual([6, 7, 13, 16, 21, 26, 27]);
      const said = rows.map(([, text]) => text as string);
      expect(said[0]).toMatch(/^Manager: Nobody can report to themselves/);
      expect(said[1]).toMatch(/^Manager: Nobody can report to themselves/);
      expect(said[2]).toMatch(/^Unit: There is no Cabins, Vess Tira/);
      expect(said[3]).toMatch(/^First day: This is needed/);
      expect(said[4]).toMatch(/^First day: There is no such day/);
      expect(said[5]).toMatch(/^Email: This email stands in row 27 too/);
      expect(said[6]).toMatch(/^Email: This email stands in row 26 too/);
      expect(await findings(page)).toEqual([]);
      await press(page, 'Cabins, Vess Tiira');
      await waitForCounts(6, 24);
      const cell = await page.waitForSelector('input[aria-label="First day, row 16"]');
      await cell?.type('3 May 2027');
      await page.keyboard.press('Enter');
      await waitForCounts(5, 25);
      expect(await believed(running)).toEqual(before);
      await press(page, 'Write 25, leave out 5');
      await sees(page, '25 rows were written as entry');
      await sees(page, '5 rows were left out');
      await page.waitForSelector('.resultrows a');
      expect(await page.$$eval('.resultrows a', (links) => links.length)).toBe(25);
      expect(await findings(page)).toEqual([]);
    }));

  test('the same file again: all that was written is the same, and nothing is', () =>
    kept(page, 'import-again', async () => {
      await takeIn();
      // the unit mended in place is still wrong in the file; a blank first day leaves the one recorded
      await waitForCounts(6, 0);
      expect(await counts()).toMatchObject({ 'rows read': 30, new: 0, changed: 0, same: 24, refused: 6 });
      await sees(page, 'No row can be written yet');
      await press(page, 'Cabins, Vess Tiira');
      await waitForCounts(5, 0);
      await press(page, 'Cancel import');
      await sees(page, 'Cancelled. Nothing was written.');
    }));

  test('undone as one entry, the register is as before', () =>
    kept(page, 'import-undo', async () => {
      await page.goto(`${running.address}/files/imports/1`);
      await press(page, 'Undo the import');
      await page.waitForSelector('.undo-plan li');
      await press(page, 'Undo this entry');
      await sees(page, 'Undone by entry');
      expect(await believed(running)).toEqual(before);
    }));

  test('what is typed into a cell goes to all that are wrong alike, unless that is turned off', () =>
    kept(page, 'import-alike', async () => {
      const people = ['Uma', 'Urs', 'Ute'].map(
        (name) => `${name},Alike,${name}@alike.example,when the ice is gone`,
      );
      const file = path.join(os.tmpdir(), `gremium-alike-${process.pid}.csv`);
      writeFileSync(file, ['Given name,Family name,Email,First day', ...people].join('\n'));
      await page.goto(`${running.address}/files/imports`);
      await takeIn(file);
      const showing = (wanted: string[]) =>
        page.waitForFunction(
          (all: string) =>
            [...document.querySelectorAll<HTMLInputElement>('.repairgrid input[aria-label^="First day"]')]
              .map((cell) => cell.value)
              .join() === all && !document.querySelector('.working'),
          { timeout: 120_000 },
          wanted.join(),
        );
      await showing(Array<string>(3).fill('when the ice is gone'));
      await sees(page, 'in all 3 that say the same', '.repairgrid');
      const type = async (row: number, text: string) => {
        const cell = await page.waitForSelector(`input[aria-label="First day, row ${row}"]`);
        await cell?.click({ count: 3 });
        await page.keyboard.type(text);
        await page.keyboard.press('Enter');
      };
      await page.click('.repairgrid tbody tr:nth-child(2) input[type=checkbox]');
      await type(3, '31 Feb 2027');
      await showing(['when the ice is gone', '31 Feb 2027', 'when the ice is gone']);
      await sees(page, 'in all 2 that say the same', '.repairgrid');
      // what is being checked stands above the grid: nothing may move while a cell is clicked
      await showing(['when the ice is gone', '31 Feb 2027', 'when the ice is gone']);
      await type(2, '32 May 2027');
      await showing(['32 May 2027', '31 Feb 2027', '32 May 2027']);
      await press(page, 'Cancel import');
      await sees(page, 'Cancelled. Nothing was written.');
      rmSync(file);
    }));
});
