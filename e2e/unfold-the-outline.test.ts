// The tree of units is unfolded by keyboard, on another day too; what stands below adds up to what it is under.
import { expect, test } from '@jest/globals';
import { many, one, sql } from '../server/test/harness';
import { findings, goTo, kept, sees, signInPage } from './browser';
import { type Story, story } from './story';

let running: Story['running'];
let page: Story['page'];
story((told) => ({ running, page } = told), null);

type Line = { name: string; indent: number; people: number };

const lines = (): Promise<Line[]> =>
  page.$$eval('table.tree tbody tr[data-unit]', (rows) =>
    rows.map((row) => ({
      name: row.querySelector('th a')?.textContent ?? '',
      indent: Number.parseInt((row.querySelector('th') as HTMLElement).style.paddingLeft, 10),
      people: Number(row.children[2]?.textContent?.replace(/\D/g, '')),
    })),
  );

/** The lines below a unit as far as they are unfolded, its children only. */
const below = (all: Line[], name: string): Line[] => {
  const at = all.findIndex((line) => line.name === name);
  const indent = all[at]?.indent ?? 0;
  const end = all.findIndex((line, i) => i > at && line.indent <= indent);
  const branch = all.slice(at + 1, end < 0 ? undefined : end);
  return branch.filter((line) => line.indent === Math.min(...branch.map((one) => one.indent)));
};

const focus = (name: string): Promise<void> =>
  page.$$eval(
    'table.tree th a',
    (links, wanted) => (links.find((link) => link.textContent === wanted) as HTMLElement).focus(),
    name,
  );

const shown = (count: number): Promise<unknown> =>
  page.waitForFunction(
    (n) => document.querySelectorAll('table.tree tbody tr[data-unit]').length === n,
    { timeout: 120_000 },
    count,
  );

/** Names of the units right below one on a day, and how many people work in the unit itself, by the raw rows. */
const childrenOf = async (name: string, on: string) => {
  const { id, own } = await one<{ id: number; own: number }>(
    running.owner,
    sql`select u.unit_id as id, (
        select count(distinct e.person_id)::int
        from placement_version w
        join position_version p on p.position_id = w.position_id and p.superseded_by is null
          and p.valid_from <= ${on}::date and ${on}::date < p.valid_until
        join employment_version e on e.employment_id = w.employment_id and e.superseded_by is null
          and e.valid_from <= ${on}::date and ${on}::date < e.valid_until
        join list_entry_version t on t.list_entry_id = e.worker_type_id and t.superseded_by is null
        where w.superseded_by is null and w.kind = 'primary' and p.unit_id = u.unit_id
          and w.valid_from <= ${on}::date and ${on}::date < w.valid_until
          and coalesce((t.flags->>'counted')::boolean, true)) as own
      from unit_version u
      where u.superseded_by is null and u.name = ${name} and u.valid_from <= ${on}::date and ${on}::date < u.valid_until`,
  );
  const children = await many<{ name: string }>(
    running.owner,
    sql`select name from unit_version
      where superseded_by is null and parent_id = ${id} and valid_from <= ${on}::date and ${on}::date < valid_until`,
  );
  return { own, names: children.map((child) => child.name).sort() };
};

test('a unit is unfolded and folded by keyboard; its children add up; the address opens it the same on another day', () =>
  kept(page, 'unfold-the-outline', async () => {
    await signInPage(page, running.address, 'Tuuli');
    await goTo(page, `${running.address}/structure/outline`);
    const before = await lines();
    const fleet = await childrenOf('Fleet', '2026-11-23');
    await focus('Fleet');
    await page.keyboard.press('ArrowRight');
    await shown(before.length + fleet.names.length);
    const unfolded = await lines();
    expect(
      below(unfolded, 'Fleet')
        .map(({ name }) => name)
        .sort(),
    ).toEqual(fleet.names);
    const total = unfolded.find(({ name }) => name === 'Fleet')!.people;
    expect(below(unfolded, 'Fleet').reduce((sum, { people }) => sum + people, fleet.own)).toBe(total);
    expect(await findings(page)).toEqual([]);

    // a level further down, then back to where it began
    const [first] = below(unfolded, 'Fleet').filter(({ name }) => name.startsWith('Vess'));
    const ship = await childrenOf(first!.name, '2026-11-23');
    await focus(first!.name);
    await page.keyboard.press('ArrowRight');
    await shown(unfolded.length + ship.names.length);
    const deeper = await lines();
    expect(
      below(deeper, first!.name)
        .map(({ name }) => name)
        .sort(),
    ).toEqual(ship.names);

    const later = new URL(page.url());
    later.searchParams.set('on', '2027-03-01');
    const then = await childrenOf('Fleet', '2027-03-01');
    await goTo(page, later.href);
    await sees(page, '1 Mar 2027');
    const onThatDay = await lines();
    expect(
      below(onThatDay, 'Fleet')
        .map(({ name }) => name)
        .sort(),
    ).toEqual(then.names);
    expect(below(onThatDay, 'Fleet').reduce((sum, { people }) => sum + people, then.own)).toBe(
      onThatDay.find(({ name }) => name === 'Fleet')!.people,
    );

    await focus('Fleet');
    await page.keyboard.press('ArrowLeft');
    await page.waitForFunction(
      () => document.querySelector('.fold[aria-expanded="true"][aria-label*="Fleet"]') === null,
    );
    await page.waitForFunction(
      (ship_) => ![...document.querySelectorAll('table.tree th a')].some((a) => a.textContent === ship_),
      {},
      first!.name,
    );
    expect(below(await lines(), 'Fleet')).toEqual([]);
  }));
