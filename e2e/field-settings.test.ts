// Fields made of the columns of a foreign file, shown in another section, hidden from a role by a switch and brought back,
// asked for by a hire.
import { describe, expect, test } from '@jest/globals';
import { writeFileSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { endpoints, ownFieldName } from '@gremium/contract';
import { many, one, sql, vacantPosition } from '../server/test/harness';
import {
  findings,
  focusOn,
  goTo,
  kept,
  openBrowser,
  openPage,
  press,
  sees,
  signInPage,
  takeOption,
} from './browser';
import { type Story, story } from './story';

let running: Story['running'];
let page: Story['page'];
let admin: Story['admin'];
story((told) => ({ running, page, admin } = told));

const type = async (label: string, text: string, within: string) => {
  await focusOn(page, `${within} [aria-label="${label}"]`);
  await page.keyboard.type(text);
};
const pick = async (label: string, text: string, within: string) => {
  await type(label, text, within);
  await takeOption(page, text);
};
const fieldNamed = (name: string) =>
  one<{ id: number; kind: string; section: number }>(
    running.owner,
    sql`select own_field_id as id, kind, section_id as section from own_field_version
      where superseded_by is null and label ->> 'en' = ${name}`,
  );

/** Four of those who are here, with their numbers. */
const four = async () => {
  const { people } = await admin.call(endpoints.people, { query: { limit: 4 } });
  return many<{ id: number; number: string }>(
    running.owner,
    sql`select person_id as id, number from person_version where superseded_by is null
      and person_id = any(${people.map(({ id }) => id)}) order by 1`,
  );
};

describe('columns of a foreign file', () => {
  test('become fields in their place, each of the kind that its cells are; written and read back', () =>
    kept(page, 'columns-become-fields', async () => {
      const people = await four();
      const lines = [
        'Personalnummer;Ausgabe am;Schuhgröße;Trägt sie;Sprachen',
        `${people[0]!.number};1.2.2026;42,5;Ja;Deutsch, Englisch`,
        `${people[1]!.number};28.02.2026;1.043,25;nein;Englisch`,
        `${people[2]!.number};3.3.2026;40;X;Deutsch`,
        `${people[3]!.number};;39,5;N;Englisch, Deutsch`,
      ];
      const file = path.join(os.tmpdir(), `gremium-${process.pid}-Ausgabe.csv`);
      writeFileSync(file, `${lines.join('\n')}\n`);
      await page.goto(`${running.address}/files/imports`);
      const input = await page.waitForSelector('#file-to-take-in');
      await (input as unknown as { uploadFile: (path: string) => Promise<void> }).uploadFile(file);
      await page.waitForSelector('.importstep');
      rmSync(file);
      await sees(page, 'not taken in', '.matched');
      await press(page, 'Match again');
      const made = async (heading: string, kind: string, isFirst = false) => {
        await press(page, `make it a field: ${heading}`);
        await page.waitForSelector('.columnfield .entryform');
        await sees(page, kind, '.columnfield');
        if (isFirst) await type('Called', 'Ausgabe', '.columnfield');
        if (isFirst) expect(await findings(page)).toEqual([]);
        await press(page, 'Save');
        await page.waitForFunction(() => !document.querySelector('.columnfield'));
        await page.waitForFunction(
          (name: string) =>
            [...document.querySelectorAll('.matching label')].some(
              (label) =>
                label.querySelector('.heading')?.textContent === name &&
                label
                  .querySelector('.ant-select-content, .ant-select-selection-item')
                  ?.textContent?.includes(name),
            ),
          {},
          heading,
        );
      };
      await made('Ausgabe am', 'date', true);
      await made('Schuhgröße', 'number');
      await made('Trägt sie', 'yes or no');
      await made('Sprachen', 'several choices');
      await page.waitForFunction(() => !document.querySelector('.working'));
      await press(page, 'Check with these columns');
      await sees(page, '4', '.importstep .figures');
      for (const word of await page.$$('.importstep input[id^="word-"]')) await word.type('as agreed');
      await press(page, 'Write 4');
      await sees(page, '4 rows were written as entry');
      const found = await Promise.all(
        ['Ausgabe am', 'Schuhgröße', 'Trägt sie', 'Sprachen'].map((name) => fieldNamed(name)),
      );
      expect(found.map(({ kind }) => kind)).toEqual(['day', 'number', 'yes_no', 'lists']);
      expect(new Set(found.map(({ section }) => section)).size).toBe(1);
      const [day, size, wears, languages] = found.map(({ id }) => ownFieldName(id)) as [
        string,
        string,
        string,
        string,
      ];
      const rows = await many<{ owner: number; values: Record<string, unknown> }>(
        running.owner,
        sql`select owner_id as owner, "values" from own_version where section_id = ${found[0]!.section}
          and superseded_by is null order by owner_id`,
      );
      expect(rows.map(({ owner, values }) => [owner, values[day], values[size], values[wears]])).toEqual([
        [people[0]!.id, '2026-02-01', '42.5', true],
        [people[1]!.id, '2026-02-28', '1043.25', false],
        [people[2]!.id, '2026-03-03', '40', true],
        [people[3]!.id, null, '39.5', false],
      ]);
      const called = await many<{ id: number; name: string }>(
        running.owner,
        sql`select list_entry_id as id, label ->> 'en' as name from list_entry_version
          where superseded_by is null and own_field_id = ${found[3]!.id}`,
      );
      const nameOf = new Map(called.map(({ id, name }) => [id, name]));
      expect(rows.map(({ values }) => (values[languages] as number[]).map((id) => nameOf.get(id)))).toEqual([
        ['Deutsch', 'Englisch'],
        ['Englisch'],
        ['Deutsch'],
        ['Englisch', 'Deutsch'],
      ]);
    }));

  test('a field of them is moved into another section: read there, changed there, kept where it was', () =>
    kept(page, 'field-elsewhere', async () => {
      const [somebody] = await four();
      await goTo(page, `${running.address}/setup/fields`);
      await sees(page, 'Schuhgröße', '.ownfield');
      await focusOn(page, '[aria-label="Move to … Schuhgröße"]');
      await page.keyboard.press('ArrowDown');
      await page.waitForSelector('.ant-select-item-option');
      await page.evaluate(() =>
        [...document.querySelectorAll<HTMLElement>('.ant-select-item-option')]
          .find((option) => option.textContent === 'Into the section Person')
          ?.click(),
      );
      await sees(page, 'Schuhgröße was moved', '.savedline');
      await sees(page, 'shown in Person', '.ownfield');
      await goTo(page, `${running.address}/people/${somebody!.id}`);
      await sees(page, '42.5', '#part-person');
      const { section, id } = await fieldNamed('Schuhgröße');
      expect(
        await page.$eval(`[id="part-own.${section}"]`, (part) => part.textContent?.includes('Schuhgröße')),
      ).toBe(false);
      await page.evaluate(() =>
        document.querySelector<HTMLElement>('#part-person .brought .addrow button')?.click(),
      );
      await type('Schuhgröße', '43', '#part-person .editor');
      await press(page, 'Save Ausgabe');
      await page.waitForFunction(() => !document.querySelector('.savebar'));
      await sees(page, '43', '#part-person .brought');
      const { value } = await one<{ value: string }>(
        running.owner,
        sql`select "values" ->> ${ownFieldName(id)} as value from own_version where section_id = ${section}
          and owner_id = ${somebody!.id} and superseded_by is null and valid_until = 'infinity'`,
      );
      expect(value).toBe('43');
      expect(await findings(page)).toEqual([]);
    }));
});

describe('a preset field', () => {
  test('is hidden from specialists by a switch, gone from their record and builder, and back with its values', () =>
    kept(page, 'preset-hidden', async () => {
      const theirs = await openBrowser();
      try {
        const other = await openPage(theirs);
        await signInPage(other, running.address, 'Astrid');
        const somebody = await one<{ id: number }>(
          running.owner,
          sql`select p.person_id as id from person_version p where p.superseded_by is null and p.birth_date is not null
            and p.person_id = any(${(
              await (
                await import('../server/test/harness')
              )
                .asDemo(running.address, 'fleet')
                .then((fleet) => fleet.call(endpoints.people, { query: { limit: 20 } }))
            ).people.map(({ id }) => id)}) order by 1 limit 1`,
        );
        const record = () => goTo(other, `${running.address}/people/${somebody.id}`);
        const says = () =>
          other.$eval('.record', (sheet) => (sheet as HTMLElement).innerText.includes('Birth date'));
        await record();
        await sees(other, 'Birth date', '.record');
        await goTo(page, `${running.address}/setup/fields`);
        const settle = async () => {
          await press(page, 'Change: Birth date');
          await focusOn(page, '.presetfields [aria-label="Hidden from"]');
        };
        await settle();
        await page.keyboard.type('specialists');
        await takeOption(page, 'specialists');
        await page.keyboard.press('Escape');
        await press(page, 'Save');
        await sees(page, 'hidden from specialists', '.presetfield');
        await record();
        await sees(other, 'Language', '.record');
        expect(await says()).toBe(false);
        await goTo(other, `${running.address}/reports/new`);
        expect(await other.evaluate(() => document.body.innerText.includes('Birth date'))).toBe(false);
        await settle();
        await page.keyboard.press('Backspace');
        await page.keyboard.press('Escape');
        await press(page, 'Save');
        await page.waitForFunction(() => !document.body.innerText.includes('hidden from specialists'));
        await record();
        await sees(other, 'Birth date', '.record');
      } finally {
        await theirs.close();
      }
    }));
});

describe('a hire', () => {
  test('asks for the own fields that are marked so, and keeps what was said with the person', () =>
    kept(page, 'own-at-hire', async () => {
      await goTo(page, `${running.address}/setup/fields`);
      await press(page, 'Change: Trägt sie');
      await pick('Asked at a hire', 'yes', '.entryform');
      await pick('Required', 'yes', '.entryform');
      await press(page, 'Save');
      await sees(page, 'Trägt sie is changed', '.savedline');
      const position = await vacantPosition(running, admin);
      await goTo(page, `${running.address}/structure/positions/${position}?do=hire`);
      await page.waitForSelector('.slipform');
      await sees(page, 'Trägt sie', '.slipform');
      await sees(page, 'Trägt sie', '.slippanel, .slip, body');
      await type('Given name', 'Aino', '.slipform');
      await page.keyboard.press('Tab');
      await focusOn(
        page,
        '.slipform [id$="person.contacts.0.value"], .slipform input[aria-label="Email or phone"]',
      );
      await page.keyboard.type('aino@new.example');
      await pick('Trägt sie', 'yes', '.slipform');
      await press(page, 'Complete hire now');
      await sees(page, 'Aino', '.slipresult, .slip, body');
      const { id, section } = await fieldNamed('Trägt sie');
      await page.waitForFunction(() => !document.querySelector('.slipform'), { timeout: 120_000 });
      const { value, family } = await one<{ value: string; family: string }>(
        running.owner,
        sql`select v."values" ->> ${ownFieldName(id)} as value, n.given as family from own_version v
          join person_name_version n on n.person_id = v.owner_id and n.superseded_by is null
          where v.section_id = ${section} and v.superseded_by is null order by v.id desc limit 1`,
      );
      expect([value, family]).toEqual(['true', 'Aino']);
    }));
});
