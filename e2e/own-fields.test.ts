// A section of the organisation's own: made in both languages, filled for two people, filtered by, taken out, changed in the file,
// taken in, undone, put in another order; employees see nothing of it.
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { ElementHandle } from 'puppeteer-core';
import { type SectionName, endpoints } from '@gremium/contract';
import { parse } from 'csv-parse/sync';
import { asDemo, many, one, settled, sql, takeOut, upload } from '../server/test/harness';
import { undoBy } from '../server/test/moving';
import { findings, focusOn, goTo, kept, press, sees, takeOption } from './browser';
import { type Story, story } from './story';

let running: Story['running'];
let page: Story['page'];
let admin: Story['admin'];
story((told) => ({ running, page, admin } = told));

const folder = mkdtempSync(path.join(tmpdir(), 'own-'));
beforeAll(() => writeFileSync(path.join(folder, 'receipt.pdf'), '%PDF-1.4\n1 0 obj\n<< >>\nendobj\n'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const type = async (label: string, text: string, within = '.entryform') => {
  await focusOn(page, `${within} [aria-label="${label}"]`);
  await page.keyboard.type(text);
};
const pick = async (label: string, text: string, within = '.entryform') => {
  await type(label, text, within);
  await takeOption(page, text);
};
const addField = async (
  en: string,
  de: string,
  kind: string,
  more: () => Promise<void> = async () => undefined,
) => {
  await press(page, 'Add a field');
  await type('Name in English', en);
  await type('Name in German', de);
  await pick('Kind', kind);
  await more();
  await press(page, 'Save');
  await sees(page, `Field ${en} is there`, '.savedline');
};
const sectionOf = async (): Promise<{ id: number; fields: Record<string, number> }> => {
  const { id } = await one<{ id: number }>(
    running.owner,
    sql`select own_section_id as id from own_section_version where superseded_by is null and label ->> 'en' = 'Uniform'`,
  );
  const fields = await many<{ id: number; name: string }>(
    running.owner,
    sql`select own_field_id as id, label ->> 'en' as name from own_field_version where superseded_by is null and section_id = ${id}`,
  );
  return { id, fields: Object.fromEntries(fields.map(({ id: field, name }) => [name, field])) };
};
const order = async () =>
  page.$$eval('.ownfield td:first-child', (cells) => cells.map((cell) => cell.textContent));

describe('a section of the organisation’s own', () => {
  test('is made with a date, several choices, a yes or no and a file, in both languages', () =>
    kept(page, 'own-made', async () => {
      await goTo(page, `${running.address}/setup/fields`);
      await press(page, 'Add a section');
      await type('Name in English', 'Uniform');
      await type('Name in German', 'Dienstkleidung');
      await press(page, 'Save');
      await sees(page, 'Section Uniform is there', '.savedline');
      await addField('Handed out on', 'Ausgegeben am', 'date');
      await addField('Parts', 'Teile', 'several choices', () =>
        type('Choices, one a line', 'Cap\nJacket\nBoots'),
      );
      await addField('Given back', 'Zurückgegeben', 'yes or no');
      await addField('Receipt', 'Quittung', 'file');
      expect(await findings(page)).toEqual([]);
      await page.evaluate(() => localStorage.setItem('gremium-language', 'de'));
      await goTo(page, `${running.address}/setup/fields`);
      await sees(page, 'Dienstkleidung', '.ownsection');
      expect(await order()).toEqual(['Ausgegeben am', 'Teile', 'Zurückgegeben', 'Quittung']);
      await page.evaluate(() => localStorage.setItem('gremium-language', 'en'));
    }));

  test('is filled on a record, filtered by in the list, taken out, changed in the file, taken in and undone', () =>
    kept(page, 'own-filled', async () => {
      const { people } = await admin.call(endpoints.people, { query: { limit: 3 } });
      const [first, second] = people as unknown as [
        { id: number; name: string },
        { id: number; name: string },
      ];
      const { id, fields } = await sectionOf();
      const section = `own.${id}` as SectionName;
      const within = `[data-section="${section}"]`;
      await goTo(page, `${running.address}/people/${first.id}`);
      await page.evaluate(() =>
        [...document.querySelectorAll<HTMLElement>('.addrow button')]
          .find((button) => button.textContent === 'Add: Uniform')
          ?.click(),
      );
      await type('Handed out on', '2026-11-02', within);
      await page.keyboard.press('Tab');
      await pick('Parts', 'Cap', within);
      await pick('Parts', 'Boots', within);
      await page.keyboard.press('Escape');
      await pick('Given back', 'no', within);
      const input = (await page.$(`${within} input[type="file"]`)) as ElementHandle<HTMLInputElement>;
      await input.uploadFile(path.join(folder, 'receipt.pdf'));
      await sees(page, 'receipt.pdf', '.fileinput');
      await press(page, 'Save Uniform');
      await page.waitForFunction(() => !document.querySelector('.savebar'));
      await sees(page, 'Cap, Boots', '.recordbody');
      await sees(page, 'receipt.pdf', '.recordbody');
      const [kept_] = await many<{ row: Record<string, unknown> }>(
        running.owner,
        sql`select "values" as row from own_version where section_id = ${id} and superseded_by is null`,
      );
      expect(kept_?.row).toMatchObject({
        [`f${fields['Handed out on']}`]: '2026-11-02',
        [`f${fields['Given back']}`]: false,
      });
      // called by its name wherever it is told
      const { last } = await one<{ last: number }>(running.owner, sql`select max(number) as last from entry`);
      await sees(page, 'Uniform', '.chronicle');
      await goTo(page, `${running.address}/setup/journal/${last}`);
      await sees(page, 'Handed out on', '.written');
      await sees(page, 'Uniform', '.written');
      expect(await page.evaluate(() => document.body.innerText)).not.toMatch(/\bown\.\d|\bf\d+\b/);
      const cap = await one<{ id: number }>(
        running.owner,
        sql`select list_entry_id as id from list_entry_version where superseded_by is null and label ->> 'en' = 'Jacket' and own_field_id = ${fields['Parts'] as number}`,
      );
      await admin.call(endpoints.saveEdits, {
        body: {
          edits: [
            {
              section,
              edit: {
                ...{ mode: 'create', from: '2026-11-01', until: 'infinity' },
                values: {
                  ownerId: second.id,
                  [`f${fields['Handed out on']}`]: '2026-10-01',
                  [`f${fields['Parts']}`]: [cap.id],
                },
              },
            },
          ],
        } as never,
      });
      // the list by a field of it
      const where = `own.s${id}.f${fields['Handed out on']} > day("2026-10-15")`;
      await goTo(page, `${running.address}/people?where=${encodeURIComponent(where)}`);
      await sees(page, first.name.split(' ').at(-1) as string, '.list, body');
      await sees(page, '1 person', 'body');
      // out, changed, in
      const view = {
        ...{ subject: section, columns: [{ field: `${section}.inEffectFrom` }], condition: '' },
        ...{ order: [], groups: [] },
      };
      const parts = [{ title: 'Uniform', view, layout: 'import' as const }];
      const { content } = await takeOut(admin, { title: 'Uniform', parts, format: 'csv' });
      const rows = parse(content, { bom: true, relax_column_count: true }) as string[][];
      const changed = rows.map((row) => row.map((cell) => (cell === '2026-10-01' ? '2026-10-05' : cell)));
      expect(JSON.stringify(changed)).not.toBe(JSON.stringify(rows));
      const text = changed
        .map((row) => row.map((cell) => `"${cell.replaceAll('"', '""')}"`).join(','))
        .join('\n');
      const taken = await settled(admin, await upload(admin, 'uniform.csv', text, section));
      expect([taken.state, taken.counts]).toEqual(['ready', expect.objectContaining({ changed: 1 })]);
      await admin.call(endpoints.writeImport, { params: { id: taken.id }, body: { rows: 'all' } as never });
      const written = await settled(admin, taken.id);
      const days = () =>
        many<{ day: string }>(
          running.owner,
          sql`select "values" ->> ${`f${fields['Handed out on']}`} as day from own_version where section_id = ${id} and superseded_by is null order by 1`,
        ).then((found) => found.map(({ day }) => day));
      expect(await days()).toContain('2026-10-05');
      await undoBy(admin, written.entry as number);
      expect(await days()).toEqual(['2026-10-01', '2026-11-02']);
    }));

  test('is not there for an employee, on the page or over the API', async () => {
    const { id } = await sectionOf();
    const crew = await asDemo(running.address, 'crew');
    const { sections } = await crew.call(endpoints.catalogue, {});
    expect(sections.map(({ name }) => name)).not.toContain(`own.${id}`);
    const own = await one<{ id: number }>(
      running.owner,
      sql`select person_id as id from account where email like 'crew@%'`,
    );
    await admin.call(endpoints.saveEdits, {
      body: {
        edits: [
          {
            section: `own.${id}`,
            edit: { mode: 'create', from: '2026-11-01', until: 'infinity', values: { ownerId: own.id } },
          },
        ],
      } as never,
    });
    const { rows } = await crew.call(endpoints.personRecord, { params: { id: own.id } });
    expect(rows.filter(({ section }) => section.startsWith('own.'))).toEqual([]);
    const told = await crew.call(endpoints.sectionRows, {
      params: { section: `own.${id}` as SectionName },
      query: {},
    });
    expect(told.rows).toEqual([]);
  });

  test('fields are put elsewhere by dragging and by “Move to…”; one is retired with its values, and brought back', () =>
    kept(page, 'own-moved', async () => {
      await goTo(page, `${running.address}/setup/fields`);
      await sees(page, 'Receipt', '.ownfield');
      const drag = (from: string, onto: string) =>
        page.evaluate(
          async (a: string, b: string) => {
            const line = (name: string) =>
              [...document.querySelectorAll<HTMLElement>('.ownfield')].find((row) =>
                row.textContent?.startsWith(name),
              ) as HTMLElement;
            const dataTransfer = new DataTransfer();
            for (const [row, kind] of [
              [line(a), 'dragstart'],
              [line(b), 'dragover'],
              [line(b), 'drop'],
            ] as const) {
              row.dispatchEvent(new DragEvent(kind, { bubbles: true, cancelable: true, dataTransfer }));
              await new Promise((done) => setTimeout(done, 100));
            }
          },
          from,
          onto,
        );
      await drag('Receipt', 'Parts');
      await sees(page, 'Receipt was moved', '.savedline');
      await page.waitForFunction(
        () => document.querySelectorAll('.ownfield td:first-child')[1]?.textContent === 'Receipt',
      );
      expect(await order()).toEqual(['Handed out on', 'Receipt', 'Parts', 'Given back']);
      await focusOn(page, '[aria-label="Move to … Given back"]');
      await page.keyboard.press('ArrowDown');
      await page.waitForFunction(() => document.querySelector('.ant-select-item-option') !== null);
      await page.keyboard.press('Enter');
      await sees(page, 'Given back was moved', '.savedline');
      await page.waitForFunction(
        () => document.querySelector('.ownfield td:first-child')?.textContent === 'Given back',
      );
      await press(page, 'Retire: Parts');
      await sees(page, 'Parts is retired', '.savedline');
      const { id } = await sectionOf();
      const { people } = await admin.call(endpoints.people, { query: { limit: 1 } });
      await goTo(page, `${running.address}/people/${people[0]?.id}`);
      await sees(page, 'Cap, Boots', '.recordbody');
      await press(page, 'Change Uniform');
      await page.waitForSelector(`[data-section="own.${id}"]`);
      expect(await page.$(`[data-section="own.${id}"] [aria-label="Parts"]`)).toBeNull();
      await goTo(page, `${running.address}/setup/fields`);
      await press(page, 'Bring back: Parts');
      await sees(page, 'Parts is back', '.savedline');
    }));
});
