// What is looked for is found in the order people expect; after a save one sentence says what was saved; who sees one record
// only starts on it; one slip after another alike; and how many acts the daily work takes.
import { describe, expect, test } from '@jest/globals';
import { fold } from '@gremium/core';
import { many, one, sql, vacantPosition } from '../server/test/harness';
import { goTo, kept, openPage, press, sees, signInPage } from './browser';
import { type Story, story } from './story';

let running: Story['running'];
let page: Story['page'];
let told: Story;
story((all) => ({ running, page } = told = all));

/** Acts of somebody at the desk: a press, a word typed into a field, a key that does something. */
let acts = 0;
const act = async (what: () => Promise<unknown>): Promise<void> => {
  acts++;
  await what();
};

const open = async (text: string): Promise<void> => {
  await page.keyboard.down('Control');
  await page.keyboard.press('k');
  await page.keyboard.up('Control');
  await page.waitForSelector('.find-or-do input');
  await page.keyboard.type(text);
};
const shut = async (): Promise<void> => {
  await page.keyboard.press('Escape');
  await page.waitForSelector('.find-or-do', { hidden: true });
};

type Way = { kind: string; name: string; about: string };
const ways = (): Promise<Way[]> =>
  page.$$eval('#ways li', (lines) =>
    lines.map(({ children: [kind, name, about] }) => ({
      kind: kind?.textContent ?? '',
      name: name?.textContent ?? '',
      about: about?.textContent ?? '',
    })),
  );

/** What is found for a text, once something of that name or kind is. */
const found = async (text: string, awaited: string): Promise<Way[]> => {
  await open(text);
  await sees(page, awaited, '#ways');
  const all = await ways();
  await shut();
  return all;
};

const field = async (label: string, text: string): Promise<void> => {
  const id = await page.$$eval(
    '.slip label',
    (labels, wanted) => labels.find((each) => each.textContent === wanted)?.getAttribute('for'),
    label,
  );
  await page.type(`[id="${id}"]`, text);
};

describe('find or do', () => {
  test('pages, figures and acts are found by their names', () =>
    kept(page, 'find-acts', async () => {
      await goTo(page, running.address);
      expect((await found('turnover', 'turnover'))[0]).toMatchObject({
        kind: 'figure',
        name: 'Rolling 12-month turnover',
      });
      expect((await found('leaving', 'act')).map(({ kind }) => kind)).toContain('act');
      expect((await found('journal', 'Journal'))[0]).toMatchObject({ kind: 'page', name: 'Journal' });
      // an act with nothing after it: the free positions to hire into
      const hire = await found('hire', 'P-');
      expect(hire.length).toBeGreaterThan(3);
      expect(hire[0]?.kind).toBe('act');
      expect(new Set(hire.slice(1).map(({ kind }) => kind))).toEqual(new Set(['Hire']));
    }));

  test('a unit stands before the positions of its name', () =>
    kept(page, 'find-unit', async () => {
      const all = await found('tallinn harbour', 'Tallinn Harbour');
      expect(all[0]).toMatchObject({ kind: 'unit', name: 'Tallinn Harbour' });
    }));

  test('"ma" finds first whose name begins so, then whose name has a word that does, then nobody by a domain', () =>
    kept(page, 'find-ma', async () => {
      const people = (await found('ma', 'person')).filter(({ kind }) => kind === 'person');
      expect(people.length).toBeGreaterThan(3);
      const rank = ({ name, about }: Way): number => {
        if (fold(name).startsWith('ma')) return 0;
        return fold(`${name} ${about}`)
          .split(/[^\p{L}]+/u)
          .some((word) => word.startsWith('ma'))
          ? 1
          : 2;
      };
      const ranks = people.map(rank);
      expect(ranks).toEqual([...ranks].sort((a, b) => a - b));
      expect(ranks[0]).toBe(0);
    }));
});

describe('after a save', () => {
  test('one sentence says what was saved, from when, with its entry and its undo', () =>
    kept(page, 'saved-line', async () => {
      const somebody = await one<{ id: number }>(
        running.owner,
        sql`select person_id as id from person_version where superseded_by is null order by person_id offset 20 limit 1`,
      );
      await goTo(page, `${running.address}/people/${somebody.id}`);
      await press(page, 'Change Names');
      await press(page, 'It changed from a day on');
      await page.type('[data-section=person_name] input[aria-label="Preferred name"]', 'Kiki');
      await press(page, 'Save Names');
      await sees(page, 'Names from 23 Nov 2026', '.savedline');
      await page.click('.savedline a');
      await sees(page, 'Preferred name', '.record');
      await page.goBack();
      await sees(page, 'Kiki', '.record');
    }));
});

describe('who sees one record only', () => {
  test('starts on it, and finds nobody else', async () => {
    const own = await openPage(told.browser);
    await kept(own, 'crew', async () => {
      const context = await told.browser.createBrowserContext();
      const at = await context.newPage();
      await at.setViewport({ width: 1280, height: 650 });
      const crew = await one<{ name: string }>(
        running.owner,
        sql`select name from account where email = 'crew@vessmar.example'`,
      );
      await signInPage(at, running.address, crew.name);
      await sees(at, crew.name, 'h1');
      expect(new URL(at.url()).pathname).toMatch(/^\/people\/\d+$/);
      expect(await at.$$eval('.li .a', (lines) => lines.length)).toBeLessThanOrEqual(1);
      await context.close();
    });
    await own.close();
  });
});

describe('acts counted', () => {
  test('hire into a vacancy from its position: at most six; and the next alike keeps day, contract and pay', () =>
    kept(page, 'hire-acts', async () => {
      const position = await vacantPosition(running, told.admin, '%Vess%');
      await goTo(page, `${running.address}/structure/positions/${position}?on=2027-01-11`);
      acts = 0;
      await act(() => press(page, 'Hire'));
      await page.waitForSelector('.slip form input');
      await act(() => field('Given name', 'Ester'));
      await act(() => field('Family name', 'Naaber'));
      await act(() => field('Email or phone', 'ester.naaber@new.example'));
      await sees(page, 'Nobody is asked', '.slipfoot');
      await page.waitForFunction(
        () => !(document.querySelector('.slipfoot .ant-btn-primary') as HTMLButtonElement).disabled,
      );
      await act(() => press(page, 'Complete hire now, from 11 Jan 2027'));
      await sees(page, 'In effect from 11 Jan 2027', '.slip');
      expect(acts).toBeLessThanOrEqual(6);
      const hired = await one<{ n: number }>(
        running.owner,
        sql`select count(*)::int as n from placement_version where superseded_by is null
          and position_id = ${position} and valid_from = '2027-01-11'`,
      );
      expect(hired.n).toBe(1);
    }));

  test('hire by find-or-do: at most seven', () =>
    kept(page, 'find-hire-acts', async () => {
      const position = await vacantPosition(running, told.admin, '%Harbour%');
      const { code } = await one<{ code: string }>(
        running.owner,
        sql`select code from position_version where position_id = ${position} and superseded_by is null limit 1`,
      );
      await goTo(page, `${running.address}/people?on=2027-01-11`);
      acts = 0;
      await act(() => open(`hire ${code}`));
      await sees(page, code, '#ways');
      await act(() => page.keyboard.press('Enter'));
      await page.waitForSelector('.slip form input');
      await act(() => field('Given name', 'Aino'));
      await act(() => field('Family name', 'Saar'));
      await act(() => field('Email or phone', 'aino.saar@new.example'));
      await act(() => press(page, 'Complete hire now, from 11 Jan 2027'));
      await sees(page, 'In effect from 11 Jan 2027', '.slip');
      expect(acts).toBeLessThanOrEqual(7);
    }));

  test('transfer with its reason: at most five', () =>
    kept(page, 'transfer-acts', async () => {
      const { id } = await one<{ id: number }>(
        running.owner,
        sql`select person_id as id from person_name_version where given = 'Aino' and family = 'Saar'`,
      );
      const position = await vacantPosition(running, told.admin);
      const { code } = await one<{ code: string }>(
        running.owner,
        sql`select code from position_version where position_id = ${position} and superseded_by is null limit 1`,
      );
      await goTo(page, `${running.address}/people/${id}?on=2027-03-01`);
      acts = 0;
      await act(() => press(page, 'Transfer'));
      await page.waitForSelector('.slip form input');
      await act(() => field('To which position', code));
      await sees(page, code, '.ant-select-item-option-active');
      await act(() => page.keyboard.press('Enter'));
      await act(async () => {
        await field('Reason', 'wish');
        await page.waitForSelector('.ant-select-item-option-active');
        await page.keyboard.press('Enter');
      });
      await act(() => press(page, 'Complete transfer now, from 1 Mar 2027'));
      await sees(page, 'In effect from 1 Mar 2027', '.slip');
      expect(acts).toBeLessThanOrEqual(5);
      const reasons = await many<{ code: string }>(
        running.owner,
        sql`select l.code from placement_version p join list_entry_version l on l.list_entry_id = p.reason_id
            and l.superseded_by is null
          join employment_version e on e.employment_id = p.employment_id and e.superseded_by is null
          where p.superseded_by is null and e.person_id = ${id} and p.valid_from = '2027-03-01'`,
      );
      expect(reasons.length).toBe(1);
    }));

  test('and next alike: the next slip keeps unit, day and contract, and says what was done before it', () =>
    kept(page, 'next-alike', async () => {
      const { id } = await one<{ id: number }>(
        running.owner,
        sql`select unit_id as id from unit_version where name = 'Tallinn Harbour' and superseded_by is null limit 1`,
      );
      await goTo(page, `${running.address}/structure/units/${id}?on=2027-02-01`);
      await press(page, 'New position');
      await page.waitForSelector('.slip form input');
      await field('Job', 'Terminal');
      await page.waitForSelector('.ant-select-item-option-active');
      await page.keyboard.press('Enter');
      await field('Title', 'Quay hand Alike');
      await press(page, 'and next alike');
      await sees(page, 'Saved: Quay hand Alike.', '.slip');
      expect(new URL(page.url()).searchParams.get('slip')).not.toBeNull();
      const again = await page.$$eval('.slip input', (inputs) => inputs.map(({ value }) => value));
      expect(again).toContain('1 Feb 2027');
      expect(again).toContain('Quay hand Alike');
      await press(page, 'Complete new position now, from 1 Feb 2027');
      await sees(page, 'In effect from 1 Feb 2027', '.slip');
      const made = await many<{ unit: number }>(
        running.owner,
        sql`select unit_id as unit from position_version where title = 'Quay hand Alike' and superseded_by is null`,
      );
      expect(made).toEqual([{ unit: id }, { unit: id }]);
    }));
});
