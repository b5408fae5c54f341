// An administrator opens a figure of a report and finds the people behind it; narrows it; somebody of Fleet sees Fleet only.
import { expect, test } from '@jest/globals';
import { many, sql } from '../server/test/harness';
import { findings, kept, openBrowser, openPage, sees, signInPage } from './browser';
import { type Story, story } from './story';

let running: Story['running'];
let page: Story['page'];
story((told) => ({ running, page } = told), null);

type Left = { family: string | null; class: string };

/** Who left an employment of a legal entity in the twelve months to the end of October 2026, counted over the raw rows. */
const leaversOf = (code: string): Promise<Left[]> =>
  many<Left>(
    running.owner,
    sql`with whole as (
        select employment_id, max(valid_until) as ends from employment_version where superseded_by is null group by 1
      )
      select n.family, r.flags->>'class' as class
      from whole w
      join employment_version e on e.employment_id = w.employment_id and e.superseded_by is null and e.valid_until = w.ends
      join legal_entity_version l on l.legal_entity_id = e.legal_entity_id and l.superseded_by is null and l.code = ${code}
      join list_entry_version t on t.list_entry_id = e.worker_type_id and t.superseded_by is null
      left join list_entry_version r on r.list_entry_id = e.end_reason_id and r.superseded_by is null
      join person_name_version n on n.person_id = e.person_id and n.superseded_by is null
        and n.valid_from < w.ends and w.ends <= n.valid_until
      where w.ends between '2025-11-02' and '2026-11-01' and coalesce((t.flags->>'counted')::boolean, true)
        and not exists (
          select from employment_version c where c.continues_id = w.employment_id and c.superseded_by is null)`,
  );

const names = () =>
  page.$$eval('.whypeople a.name', (links) => links.map((link) => link.textContent ?? '').sort());
const count = () => page.$eval('.why .peoplehead .soft', (at) => Number.parseInt(at.textContent ?? '', 10));
const openCell = async (label: string): Promise<void> => {
  await page.waitForSelector('table.cross .cell');
  await page.evaluate((start: string) => {
    const cell = [...document.querySelectorAll<HTMLElement>('table.cross .cell')].find((one) =>
      one.getAttribute('aria-label')?.startsWith(start),
    );
    cell?.focus();
  }, label);
  await page.keyboard.press('Enter');
  await page.waitForSelector('.why .whybody');
};

const REPORT = '/reports/cross-table?measure=turnover&by=legalEntity&from=2025-11&until=2026-10';

test('a rate opens to its formula, its months and exactly the people who left', () =>
  kept(page, 'open-a-figure', async () => {
    await signInPage(page, running.address, 'Tuuli');
    await page.goto(running.address + REPORT);
    const [entity] = await many<{ name: string }>(
      running.owner,
      sql`select name from legal_entity_version where superseded_by is null and code = 'V-SE'`,
    );
    const left = await leaversOf('V-SE');
    expect(left.length).toBeGreaterThan(5);
    await openCell(`${entity!.name}, October 2026`);
    await sees(page, `${left.length} `, '.why .peoplehead');
    const shown = await names();
    expect(shown).toHaveLength(left.length);
    for (const { family } of left) expect(shown.some((name) => name.includes(family ?? ''))).toBe(true);
    expect(await page.$eval('.why .fraction', (at) => at.textContent)).toContain(String(left.length));
    expect(await page.$$eval('.whymonths tbody tr', (rows) => rows.length)).toBe(12);
    expect(await findings(page)).toEqual([]);
  }));

test('narrowed by why people left, the same cell has those alone; a name leads to the record and back', () =>
  kept(page, 'narrow-a-figure', async () => {
    const left = (await leaversOf('V-SE')).filter((one) => one.class === 'by_employee');
    await page.goto(`${running.address}${REPORT}&narrow=class:by_employee`);
    const [entity] = await many<{ name: string }>(
      running.owner,
      sql`select name from legal_entity_version where superseded_by is null and code = 'V-SE'`,
    );
    await openCell(`${entity!.name}, October 2026`);
    await sees(page, `${left.length} `, '.why .peoplehead');
    expect(await count()).toBe(left.length);
    const [first] = await names();
    await page.click('.whypeople a.name');
    await page.waitForFunction(() => location.pathname.startsWith('/people/'));
    await page.goBack();
    await page.waitForSelector('.why .whybody');
    expect((await names())[0]).toBe(first);
  }));

test('behind a large figure everybody is found: some first, the rest when asked for', () =>
  kept(page, 'large-figure', async () => {
    const address =
      '/reports/cross-table?measure=headcount&by=whole&from=2026-10&until=2026-10&cell=all~2026-10';
    await page.goto(running.address + address);
    await page.waitForSelector('.why .whybody');
    const total = Number((await page.$eval('.why .big', (at) => at.textContent ?? '')).replace(/\D/g, ''));
    expect(total).toBeGreaterThan(1000);
    const shown = () => page.$$eval('.whypeople li', (rows) => rows.length);
    expect(await shown()).toBe(500);
    const press = 'xpath/.//aside//button[starts-with(., "Show ")]';
    for (let left = total - 500; left > 0; left -= 500) {
      const before = await shown();
      const next = (await page.waitForSelector(press))!;
      expect(await next.evaluate((at) => at.textContent)).toBe(`Show ${Math.min(500, left)} more`);
      await next.press('Enter');
      await page.waitForFunction((n) => document.querySelectorAll('.whypeople li').length > n, {}, before);
    }
    expect(await shown()).toBe(total);
    expect(await page.$(press)).toBeNull();
  }));

test('somebody limited to Fleet opens the same report and finds nobody from outside', () =>
  kept(page, 'fleet-figure', async () => {
    const second = await openBrowser();
    const other = await openPage(second);
    await signInPage(other, running.address, 'Fleet');
    await other.goto(
      `${running.address}/reports/cross-table?measure=leavers&by=division&from=2026-01&until=2026-10`,
    );
    await other.waitForSelector('table.cross tbody th');
    const heads = await other.$$eval('table.cross tbody th', (all) => all.map((one) => one.textContent));
    expect(heads).toEqual(['Fleet']);
    await second.close();
  }));
