// Jobs, grades and positions made where they are needed: a grade, a pattern, two jobs, six positions, a job changed with those
// that follow it. What stands is compared with SQL.
import { describe, expect, test } from '@jest/globals';
import { many, one, sql } from '../server/test/harness';
import { findings, goTo, kept, press, sees, takeOption } from './browser';
import { type Story, story } from './story';

let running: Story['running'];
let page: Story['page'];
story((told) => ({ running, page } = told));

const complete = async () => {
  await page.waitForFunction(
    () => document.querySelector<HTMLButtonElement>('.slipfoot button[type="submit"]')?.disabled === false,
  );
  await page.click('.slipfoot button[type="submit"]');
  await page.waitForFunction(() => !document.querySelector('.slipform'));
};
const fill = async (field: string, text: string) => {
  const selector = `.slipform [id$="-${field}"]`;
  await page.waitForSelector(selector);
  await page.click(selector, { count: 3 });
  await page.keyboard.type(text);
};
const clear = async (field: string) => {
  await fill(field, ' ');
  await page.keyboard.press('Backspace');
};
// A choice: typed until it is the first one, and taken.
const pick = async (selector: string, text: string) => {
  await page.waitForSelector(selector);
  await page.click(selector);
  await page.keyboard.type(text);
  await takeOption(page, text);
};
const choose = (field: string, text: string) => pick(`.slipform [id$="-${field}"]`, text);
const unfold = () =>
  page.evaluate(() =>
    document.querySelectorAll('.slipform details').forEach((one) => one.setAttribute('open', '')),
  );
const jobCalled = async (code: string) =>
  (
    await one<{ id: number }>(
      running.owner,
      sql`select job_id as id from job_version where code = ${code} and superseded_by is null limit 1`,
    )
  ).id;
const positionsOf = (job: number) =>
  many<{ code: string; title: string; hours: number | null; places: number | null; fte: number | null }>(
    running.owner,
    sql`select p.code, p.title, p.hours, l.places, l.fte from position_version p join position_limits_version l using (position_id)
      where p.job_id = ${job} and p.superseded_by is null and l.superseded_by is null and p.valid_until = 'infinity' order by position_id`,
  );
const setUp: { job?: number; made?: number } = {};

describe('what positions are made of', () => {
  test('a grade with a range, from its page', () =>
    kept(page, 'grade', async () => {
      await goTo(page, `${running.address}/structure/grades`);
      await press(page, 'New grade');
      await page.waitForSelector('.addentry input');
      for (const [field, text] of [
        ['name', 'Werft 5'],
        ['level', '5'],
        ['steps', '3'],
      ] as const) {
        await page.click(`.addentry [id$="${field}"]`);
        await page.keyboard.type(text);
      }
      await page.click('.addentry button[type="submit"], .addentry .ant-btn-primary');
      await page.waitForFunction(() => location.pathname.startsWith('/structure/grades/'));
      await sees(page, 'Werft 5', '.recordhead');
      await press(page, 'Add: Pay range');
      const type = async (label: string, text: string) => {
        const selector = `.editor [aria-label="${label}"]`;
        await page.waitForSelector(selector);
        await page.click(selector);
        await page.keyboard.type(text);
      };
      for (const [label, text] of [
        ['Currency', 'EUR'],
        ['Minimum', '2.500'],
        ['Middle', '3000'],
        ['Maximum', '3,600'],
        ['Full-time hours', '37.5'],
      ] as const)
        await type(label, text);
      // a number that can be read in two ways is asked about, not guessed
      await sees(page, '2,500', '.editor');
      await press(page, '2,500');
      await press(page, 'Save Pay range');
      await page.waitForFunction(() => !document.querySelector('.editor'));
      const [range] = await many(
        running.owner,
        sql`select r.minimum::text, r.maximum::text from grade_range_version r join grade_version g using (grade_id)
          where g.name = 'Werft 5' and r.superseded_by is null`,
      );
      expect(range).toEqual({ minimum: '2500.0000', maximum: '3600.0000' });
      expect(await findings(page)).toEqual([]);
    }));

  test('a pattern, and a job of it: with certificates and checks, without skills, without one entry', () =>
    kept(page, 'pattern', async () => {
      await goTo(page, `${running.address}/structure/jobs`);
      await press(page, 'New job');
      await fill('name', 'Muster: Werft');
      await fill('code', 'PAT-YARD');
      await unfold();
      await choose('taskIds', 'Tends the engines');
      await page.keyboard.press('Escape');
      await choose('checkIds', 'Certificate of good conduct');
      await page.keyboard.press('Escape');
      await choose('pattern', 'yes');
      await complete();
      const pattern = await jobCalled('PAT-YARD');
      await goTo(page, `${running.address}/structure/jobs/${pattern}?shown=pattern`);
      const ask = async (label: string, text: string) => {
        await press(page, 'Add: Requirement');
        await pick(`.editor [aria-label="${label}"]`, text);
        await page.keyboard.press('Escape');
        await pick('.editor [aria-label="Needed"]', 'required');
        await press(page, 'Save Requirement');
        await page.waitForFunction(() => !document.querySelector('.editor'));
      };
      await ask('Certificates', 'Forklift licence');
      await ask('Skills', 'Diesel engines');
      await press(page, 'New job like it');
      await fill('name', 'Schweißerin/Schweißer');
      await fill('code', 'WELD2');
      for (const part of ['skills', 'tasks']) {
        await page.evaluate((name: string) => {
          const boxes = [...document.querySelectorAll<HTMLElement>('.slipform .ant-checkbox-wrapper')];
          boxes.find((box) => box.textContent === name)?.click();
        }, part);
        await new Promise((resolve) => setTimeout(resolve, 300));
      }
      await choose('gradeId', 'Werft 5');
      await sees(page, 'Forklift licence', '.concerned');
      await complete();
      setUp.job = await jobCalled('WELD2');
      const needs = await many(
        running.owner,
        sql`select skill_ids is null as skills, jsonb_array_length(certificate_ids) as certificates from job_requirement_version
          where job_id = ${setUp.job} and superseded_by is null`,
      );
      expect(needs).toEqual([{ skills: true, certificates: 1 }]);
      const job = await one<{ tasks: unknown; checks: unknown[]; pattern: boolean | null }>(
        running.owner,
        sql`select task_ids as tasks, check_ids as checks, pattern from job_version where job_id = ${setUp.job} and superseded_by is null`,
      );
      expect([job.tasks, job.checks.length, job.pattern]).toEqual([null, 1, null]);
    }));

  test('another job with nothing but code, name and day', () =>
    kept(page, 'bare-job', async () => {
      await goTo(page, `${running.address}/structure/jobs`);
      await press(page, 'New job');
      await fill('name', 'Diver');
      await fill('code', 'DIVER');
      await complete();
      await sees(page, 'Open the job', '.slip');
    }));
});

describe('positions', () => {
  const begin = async () => {
    await goTo(page, `${running.address}/structure/jobs/${setUp.job ?? 0}`);
    await press(page, 'New position');
    await choose('unitId', 'Larvik Harbour');
  };

  test('one person, several, no limit, two alike: each of a job by at most four entries on one page', () =>
    kept(page, 'positions', async () => {
      // the unit alone: one person, what the job says
      await begin();
      await complete();
      // several
      await begin();
      await fill('places', '4');
      await fill('fte', '2.8');
      await complete();
      // no limit
      await begin();
      await clear('places');
      await clear('fte');
      await sees(page, 'no limit', '.slipform');
      await complete();
      // hours of its own
      await begin();
      await unfold();
      await fill('hours', '30');
      await complete();
      // two alike
      await begin();
      await fill('count', '2');
      await complete();
      await sees(page, 'Concerns 2', '.slip');
      const made = await positionsOf(setUp.job as number);
      expect(made.map(({ places, fte, hours }) => [places, fte, hours])).toEqual([
        [1, 100, null],
        [4, 280, null],
        [null, null, null],
        [1, 100, 3000],
        [1, 100, null],
        [1, 100, null],
      ]);
      expect(new Set(made.map(({ code }) => code)).size).toBe(6);
    }));

  test('the job changes: five follow, one keeps its own 30 hours; undone from the result', () =>
    kept(page, 'followers', async () => {
      await goTo(page, `${running.address}/structure/jobs/${setUp.job ?? 0}`);
      await press(page, 'Change');
      await fill('hours', '36');
      await sees(page, 'Hours a week: 5 follow, 1 keeps its own (30.00)', '.slip');
      await complete();
      const hours = async () => (await positionsOf(setUp.job as number)).map((position) => position.hours);
      expect(await hours()).toEqual([3600, 3600, 3600, 3000, 3600, 3600]);
      await press(page, 'Undo…');
      await press(page, 'Undo this entry');
      await sees(page, 'One entry is undone.', '.slip');
      expect(await hours()).toEqual([null, null, null, 3000, null, null]);
    }));

  test('full is said with who holds it, and others with room are offered and taken', () =>
    kept(page, 'room', async () => {
      const full = await one<{ id: number; code: string; unit: number }>(
        running.owner,
        sql`select p.position_id as id, p.code, p.unit_id as unit from position_version p join position_limits_version l using (position_id)
          join placement_version h using (position_id) join job_version j using (job_id)
          where j.code = 'PAXAG' and p.superseded_by is null and l.superseded_by is null and h.superseded_by is null and j.superseded_by is null
            and p.standing = 'in_force' and p.valid_until = 'infinity' and l.places = 1 and h.valid_until = 'infinity' and h.hours = h.full_time limit 1`,
      );
      await goTo(page, `${running.address}/structure/units/${full.unit}`);
      await press(page, 'Hire');
      await pick('.slipform [id$="-positionId"]', full.code);
      await fill('person-name-given', 'Åse');
      await fill('person-contacts-0-value', 'aase@new.example');
      await sees(page, 'the place is held by', '.slipstops');
      await sees(page, 'There is room in', '.slipstops');
      await page.click('.slipstops .room button');
      await page.waitForFunction(() => !document.querySelector('.slipstops .room'));
      expect(await findings(page)).toEqual([]);
    }));
});
