// Honours given one after the other from one slip, refused with the reason, with their document; and whoever may not is told who may.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { ElementHandle } from 'puppeteer-core';
import { many, one, sql } from '../server/test/harness';
import { findings, focusOn, goTo, kept, openPage, press, sees, signInPage, takeOption } from './browser';
import { type Story, story } from './story';

let running: Story['running'];
let page: Story['page'];
let browser: Story['browser'];
story((told) => ({ running, page, browser } = told));

const folder = mkdtempSync(path.join(tmpdir(), 'honours-'));
beforeAll(() => {
  writeFileSync(path.join(folder, 'order.pdf'), '%PDF-1.4\n1 0 obj\n<< >>\nendobj\n');
  writeFileSync(path.join(folder, 'order.png'), '<!doctype html><script>alert(1)</script>');
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

// fields move while the honour that is chosen says what it asks for: the one that stands is taken
const at = (field: string) => focusOn(page, `.slipform [id$="-${field}"]`);
const choose = async (field: string, text: string) => {
  await at(field);
  await page.keyboard.type(text);
  await takeOption(page, text);
};
const fill = async (field: string, text: string) => {
  await at(field);
  await page.keyboard.type(text);
  await page.keyboard.press('Tab');
};
const isReady = (wanted: boolean) =>
  page.waitForFunction(
    (is: boolean) =>
      document.querySelector<HTMLButtonElement>('.slipfoot button[type="submit"]')?.disabled === !is,
    {},
    wanted,
  );
const attach = async (name: string) => {
  const input = (await page.$('.slipform input[type="file"]')) as ElementHandle<HTMLInputElement>;
  await input.uploadFile(path.join(folder, name));
};
const awardsOf = (person: number) =>
  many<{ code: string; ordinal: number | null; number: string | null; file: string | null }>(
    running.owner,
    sql`select l.code, a.ordinal, a.order_number as number, a.evidence ->> 'name' as file from award_version a
      join list_entry_version l on l.list_entry_id = a.honour_id and l.superseded_by is null
      where a.person_id = ${person} and a.superseded_by is null and a.valid_until = 'infinity' order by a.award_id`,
  );

describe('honours', () => {
  test('three in a row from one slip: one given once only is refused, one without its document too, with the reason', () =>
    kept(page, 'honours', async () => {
      // somebody with ten years who was honoured for them, and has no medal
      const { id } = await one<{ id: number }>(
        running.owner,
        sql`select a.person_id as id from award_version a join list_entry_version l on l.list_entry_id = a.honour_id and l.superseded_by is null
          where l.code = 'SERVICE10' and a.superseded_by is null and a.person_id not in (select b.person_id from award_version b
            join list_entry_version m on m.list_entry_id = b.honour_id where m.code = 'RESCUE')
          and a.person_id in (select person_id from employment_version where superseded_by is null and valid_until = 'infinity') order by 1 limit 1`,
      );
      const before = (await awardsOf(id)).length;
      await goTo(page, `${running.address}/people/${id}`);
      await press(page, 'More acts');
      await press(page, 'Record honour');
      await choose('honourId', '10 years');
      await sees(page, 'This honour is given once only', '.slipform');
      await isReady(false);
      await choose('honourId', 'Letter of thanks');
      await isReady(true);
      await press(page, 'and next alike');
      await sees(page, 'Saved:', '.sliphead');
      // the second: a medal of a series, which wants its order and its document
      await choose('honourId', 'Rescue medal');
      await fill('orderNumber', '31/2026');
      await fill('orderedOn', '2026-11-01');
      await sees(page, 'This honour asks for it', '.slipform');
      await attach('order.png');
      await sees(page, 'is none of the kinds that are kept', '.slipform');
      await attach('order.pdf');
      await sees(page, 'order.pdf', '.fileinput');
      await isReady(true);
      await press(page, 'and next alike');
      await page.waitForFunction(
        () => !document.querySelector('.fileinput')?.textContent?.includes('order.pdf'),
      );
      // the third is kept by leaving and coming back
      await choose('honourId', 'Rescue medal');
      await fill('orderNumber', '32/2026');
      await sees(page, 'Draft kept', '.sliphead');
      const address = page.url();
      await goTo(page, `${running.address}/structure/outline`);
      await goTo(page, address);
      await page.waitForFunction(
        () => document.querySelector<HTMLInputElement>('.slipform [id$="-orderNumber"]')?.value === '32/2026',
      );
      await fill('orderedOn', '2026-11-02');
      await attach('order.pdf');
      await isReady(true);
      expect(await findings(page)).toEqual([]);
      await page.click('.slipfoot button[type="submit"]');
      await page.waitForFunction(() => !document.querySelector('.slipform'), { timeout: 120_000 });
      const after = (await awardsOf(id)).slice(before);
      expect(after).toEqual([
        { code: 'THANKS', ordinal: null, number: null, file: null },
        { code: 'RESCUE', ordinal: 1, number: '31/2026', file: 'order.pdf' },
        { code: 'RESCUE', ordinal: 2, number: '32/2026', file: 'order.pdf' },
      ]);
    }));

  test('whoever may not record them is told who may', async () => {
    const { id } = await one<{ id: number }>(
      running.owner,
      sql`select a.person_id as id from award_version a
        join employment_version e on e.person_id = a.person_id and e.superseded_by is null and e.valid_until = 'infinity'
        join placement_version v on v.employment_id = e.employment_id and v.superseded_by is null and v.valid_until = 'infinity' and v.kind = 'primary'
        join position_version p on p.position_id = v.position_id and p.superseded_by is null and p.valid_until = 'infinity'
        where a.superseded_by is null and p.unit_id in (select b.unit_id from branch_periods((select unit_id from unit_version
          where name = 'Fleet' and superseded_by is null and valid_until = 'infinity')) b) order by 1 limit 1`,
    );
    const other = await openPage(await browser.createBrowserContext().then((context) => context as never));
    await kept(other, 'honours-not-mine', async () => {
      await signInPage(other, running.address, 'Astrid');
      await goTo(other, `${running.address}/people/${id}`);
      await sees(other, 'It is recorded by Tuuli Kaskela', '#section-award');
      expect(await other.$$eval('.acts button', (all) => all.map((one) => one.textContent))).not.toContain(
        'Record honour',
      );
    });
  });
});
