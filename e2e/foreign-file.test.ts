// Files from other offices in the browser: from the preview to the written entry on one page.
import { rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { describe, expect, test } from '@jest/globals';
import { foreignWorkbook, oldText } from '../server/test/foreign-files';
import { freePlaces } from '../server/test/importing';
import { many, sql } from '../server/test/harness';
import { findings, kept, press, sees } from './browser';
import { type Story, story } from './story';

let running: Story['running'];
let page: Story['page'];
let admin: Story['admin'];
story((told) => ({ running, page, admin } = told));

const takeIn = async (name: string, content: Buffer): Promise<void> => {
  const file = path.join(os.tmpdir(), `gremium-${process.pid}-${name}`);
  writeFileSync(file, content);
  await page.goto(`${running.address}/files/imports`);
  const input = await page.waitForSelector('#file-to-take-in');
  await (input as unknown as { uploadFile: (path: string) => Promise<void> }).uploadFile(file);
  await page.waitForSelector('.importstep');
  rmSync(file);
};

/** Waits until nothing is worked on and the check has counted so. */
const counted = (wanted: Record<string, number>) =>
  page.waitForFunction(
    (expected: Record<string, number>) => {
      if (document.querySelector('.working')) return false;
      const parts = [...document.querySelectorAll('.importstep .figures > div')];
      const counts = Object.fromEntries(
        parts.map((part) => [
          part.querySelector('dt')?.firstChild?.textContent ?? '',
          Number(part.querySelector('dd')?.textContent),
        ]),
      );
      return Object.entries(expected).every(([name, count]) => (counts[name] ?? 0) === count);
    },
    { timeout: 120_000 },
    wanted,
  );

const typeInto = async (label: string, text: string): Promise<void> => {
  const cell = await page.waitForSelector(`input[aria-label="${label}"]`);
  // not by a click: rows move up while the answer to what was typed before comes
  await cell?.evaluate((input) => {
    input.focus();
    input.select();
  });
  await page.keyboard.type(text);
  await page.keyboard.press('Enter');
};

describe('a file from another office', () => {
  test('three sheets, a title, headings in row 3, whole names, a line of totals: taken in without leaving the page', () =>
    kept(page, 'foreign-workbook', async () => {
      const places = await freePlaces(running, admin);
      const people = ['Jörg van der Möll', 'Lindqvist, Åsa', 'Uta Weiß'].map((name, i) => ({
        name,
        first: i === 2 ? '31.2.2027' : `${i + 1}.2.2027`,
        place: places[i]?.code ?? '',
        pay: '3.100,50',
      }));
      await takeIn('Meldung.xlsx', await foreignWorkbook(people));
      await counted({ 'rows read': 4, new: 2, refused: 2 });
      const url = page.url();
      await sees(page, 'Headings in row 3');
      // the preview: the cover is another sheet, and it has no people
      await press(page, 'Other sheet or row of headings');
      await sees(page, 'Meldung neuer Leute, Winter 2027', '.preview');
      await press(page, 'Deckblatt');
      await sees(page, 'There are no rows in this file');
      await press(page, 'Neue Leute');
      await counted({ 'rows read': 4, new: 2, refused: 2 });
      expect(await findings(page)).toEqual([]);
      // names as they were split, seen and mended
      await press(page, 'new: show the 2 rows');
      await sees(page, 'van der Möll', '.resultrows');
      await typeInto('Eintritt, row 6', '28.2.2027');
      await counted({ new: 3, refused: 1 });
      await typeInto('Family name, row 7', 'Summe, no person');
      await counted({ new: 3, refused: 1 });
      await press(page, 'Leave out row 7');
      await counted({ new: 3, refused: 0, 'left out': 1 });
      await press(page, 'left out: show its row');
      await press(page, 'put back');
      await counted({ new: 3, refused: 1, 'left out': 0 });
      await press(page, 'Leave out row 7');
      await counted({ new: 3, refused: 0, 'left out': 1 });
      for (const word of await page.$$('.importstep input[id^="word-"]')) await word.type('as agreed');
      await press(page, 'Write 3');
      await sees(page, '3 rows were written as entry');
      expect(page.url()).toBe(url);
      const names = await many<{ given: string; family: string }>(
        running.owner,
        sql`select n.given, n.family from person_name_version n
          where n.superseded_by is null and n.family in ('van der Möll', 'Lindqvist', 'Weiß')
            and n.recorded_by = (select max(id) from entry) order by n.family collate "C"`,
      );
      expect(names).toEqual([
        { given: 'Åsa', family: 'Lindqvist' },
        { given: 'Uta', family: 'Weiß' },
        { given: 'Jörg', family: 'van der Möll' },
      ]);
    }));

  test('Windows-1252 with semicolons and a quoted line break: read, mended in the row the spreadsheet shows, written', () =>
    kept(page, 'foreign-text', async () => {
      const places = await freePlaces(running, admin);
      const lines = [
        'Meldung Büro Süd',
        '',
        'Vorname;Nachname;E-Mail;Eintritt;Planstelle',
        `Jürgen;"Groß\nHeim";jg@sued.example;31.2.2027;${places[0]?.code}`,
        `Käthe;Süß;ks@sued.example;1.2.2027;${places[1]?.code}`,
      ];
      await takeIn('alt.csv', oldText(lines));
      await counted({ 'rows read': 2, new: 1, refused: 1 });
      await typeInto('Eintritt, row 4', '28.2.2027');
      await counted({ new: 2, refused: 0 });
      await press(page, 'Write 2');
      await sees(page, '2 rows were written as entry');
      await sees(page, 'Jürgen Groß Heim', '.resultrows');
    }));
});
