import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { type MovementKind, endpoints } from '@gremium/contract';
import type { Browser, Page } from 'puppeteer-core';
import { type Running, asDemo, newcomer, startServer, takeIn, vacantPosition } from '../server/test/harness';
import { findings, goTo, kept, openBrowser, openPage, signInPage } from './browser';

// 45 letters in all
const LONG = { given: 'Wilhelmina-Alexandrine', family: 'van Wassenaer-Obdam-II' };

let running: Running;
let browser: Browser;
let page: Page;
let views: { name: string; path: string }[];
beforeAll(async () => {
  running = await startServer('demo');
  browser = await openBrowser();
  page = await openPage(browser);
  const admin = await asDemo(running.address, 'admin');
  const positionId = await vacantPosition(running, admin);
  const vacant = await vacantPosition(running, admin, '%Tallinn%');
  const person = {
    ...newcomer('Long'),
    name: LONG,
    nationality: 'FI',
    gender: 'female' as const,
    birthDate: '1990-05-05' as never,
  };
  const hired = await admin.call(endpoints.move, {
    body: {
      kind: 'hire',
      input: { person, firstDay: '2026-11-23' as never, positionId, pay: [], reasonId: null },
    },
  });
  await admin.call(endpoints.keepMovement, {
    params: { key: 'everyviewhire' },
    body: {
      kind: 'hire',
      about: `position ${vacant}`,
      input: { positionId: vacant, firstDay: '2026-12-01' },
      typed: {},
    },
  });
  const keep = (key: string, kind: MovementKind, about: string, input: Record<string, unknown>) =>
    admin.call(endpoints.keepMovement, { params: { key }, body: { kind, about, input, typed: {} } });
  const { units } = await admin.call(endpoints.outline, {});
  const unit = units.find(({ name }) => name === 'Tallinn Harbour')!.id;
  const [job] = (await admin.call(endpoints.records, { params: { kind: 'job' }, query: { limit: 1 } })).rows;
  const { employmentId, personId } = hired;
  const [first, second] = ['2027-03-01', '2027-06-30'];
  await keep('everyviewleave', 'leave', `person ${personId}`, { employmentId, lastDay: second });
  await keep('everyviewpost', 'new_position', `unit ${unit}`, { unitId: unit, firstDay: first });
  await keep('everyviewchange', 'change_unit', `unit ${unit}`, {
    unitId: unit,
    firstDay: first,
    name: LONG.family,
  });
  await keep('everyviewunit', 'new_unit', `unit ${unit}`, { parentId: unit, firstDay: first });
  await keep('everyviewclose', 'close_unit', `unit ${unit}`, { unitId: unit, lastDay: second });
  await keep('everyviewstand', 'change_position', `position ${vacant}`, {
    positionId: vacant,
    firstDay: first,
    standing: 'on_hold',
  });
  const { rows: grades } = await admin.call(endpoints.records, {
    params: { kind: 'grade' },
    query: { limit: 5 },
  });
  const grade = grades.find(({ values }) => values['code'] === 'G2') ?? grades[0];
  await keep('everyviewtask', 'change_job', `job ${job!.thing}`, {
    jobId: job!.thing,
    firstDay: first,
    hours: 3500,
  });
  await keep('everyviewjobs', 'new_job', `job ${job!.thing}`, {
    likeId: job!.thing,
    firstDay: first,
    name: LONG.family,
    code: 'LONGNAME',
  });
  await keep('everyviewback', 'rehire', `person ${personId}`, { personId, firstDay: first });
  const taken = await takeIn(admin, 'season crew.csv', readFileSync('demo/files/season-crew-faulty.csv'));
  views = [
    { name: 'outline', path: '/structure/outline' },
    { name: 'positions', path: '/structure/positions' },
    { name: 'position', path: `/structure/positions/${positionId}` },
    { name: 'hire', path: `/structure/positions/${vacant}?on=2026-12-01&slip=everyviewhire` },
    { name: 'unit', path: `/structure/units/${unit}` },
    { name: 'job', path: `/structure/jobs/${job!.thing}` },
    { name: 'jobs', path: '/structure/jobs?shown=any' },
    { name: 'change of job', path: `/structure/jobs/${job!.thing}?slip=everyviewtask` },
    { name: 'new job', path: `/structure/jobs/${job!.thing}?slip=everyviewjobs` },
    { name: 'grade', path: `/structure/grades/${grade!.thing}` },
    { name: 'next steps', path: '/structure/steps' },
    { name: 'positions above', path: '/structure/positions?shown=above' },
    { name: 'leaving', path: `/people/${personId}?slip=everyviewleave` },
    { name: 'rehire', path: `/people/${personId}?slip=everyviewback` },
    { name: 'new position', path: `/structure/units/${unit}?slip=everyviewpost` },
    { name: 'new unit', path: `/structure/units/${unit}?slip=everyviewunit` },
    { name: 'change of unit', path: `/structure/units/${unit}?on=${first}&slip=everyviewchange` },
    { name: 'closing', path: `/structure/units/${unit}?slip=everyviewclose` },
    { name: 'change of position', path: `/structure/positions/${vacant}?slip=everyviewstand` },
    { name: 'people', path: '/people?search=zzzz' },
    { name: 'people as a table', path: '/people?as=table&where=blank(contract.fixedUntil)' },
    { name: 'people as cards', path: '/people?as=cards' },
    { name: 'who reports to whom', path: '/people?as=tree' },
    { name: 'shelf', path: '/reports/shelf' },
    { name: 'list report', path: '/reports/list/-6' },
    { name: 'report of entries', path: '/reports/list/-13' },
    { name: 'person', path: `/people/${hired.personId}` },
    { name: 'movements', path: '/movements/1' },
    { name: 'organisation', path: '/setup/organisation' },
    { name: 'reorganise', path: '/structure/outline?reorganise=1' },
    { name: 'access', path: '/setup/access/2' },
    { name: 'roles', path: '/setup/roles/wages_clerk' },
    { name: 'lists', path: '/setup/lists/reason_leave?add=1' },
    { name: 'journal', path: '/setup/journal' },
    { name: 'report', path: '/reports/cross-table?cell=all~2026-10' },
    { name: 'report of units', path: '/reports/cross-table?measure=fte&by=unit&from=2026-10&until=2026-11' },
    { name: 'import', path: `/files/imports/${taken.id}` },
    { name: 'templates', path: '/files/templates' },
    { name: 'undo', path: `/setup/journal/${hired.entry}?undo=${hired.entry}` },
  ];
});
afterAll(async () => {
  await browser.close();
  await running.close();
});

// Texts that stick out of what holds them, and neighbours in a row that lie over each other.
const clipped = (at: Page): Promise<string[]> =>
  at.evaluate(() => {
    const texts = [
      ...document.querySelectorAll<HTMLElement>('h1, h2, h3, p, td, th, dd, dt, li, label, button, a'),
    ];
    return texts
      .filter((element) => {
        const { overflowX, display } = getComputedStyle(element);
        if (display === 'inline' || element.closest('.axisbox, .hidden, .strip')) return false;
        return (
          overflowX !== 'auto' && overflowX !== 'scroll' && element.scrollWidth > element.clientWidth + 2
        );
      })
      .map((element) => `${element.tagName}.${element.className}: ${element.innerText.slice(0, 60)}`);
  });

describe('every view', () => {
  test.each([
    ['in English by day', 'en', 'light', 800],
    ['in German by night, on a low screen', 'de', 'dark', 650],
  ] as const)(
    '%s: no serious accessibility finding, nothing clipped, also with large text',
    async (_, language, theme, height) => {
      await page.setViewport({ width: 1280, height });
      if (!(await page.$('.app'))) await signInPage(page, running.address, 'Tuuli');
      await page.evaluate(
        (chosen: string, mode: string) => {
          localStorage.setItem('gremium-language', chosen);
          localStorage.setItem('gremium-theme', mode);
        },
        language,
        theme,
      );
      for (const { name, path } of views)
        await kept(page, `view-${name}-${language}`, async () => {
          await page.setViewport({ width: 1280, height });
          await goTo(page, `${running.address}${path}`);
          await page.waitForSelector('main');
          await page.evaluate(() => document.fonts.ready);
          expect([name, await findings(page)]).toEqual([name, []]);
          expect([name, await clipped(page)]).toEqual([name, []]);
          // text at 125 %: the same screen has four fifths of the room
          await page.setViewport({ width: 1024, height: Math.round(height * 0.8) });
          expect([name, 'at 125 %', await clipped(page)]).toEqual([name, 'at 125 %', []]);
        });
    },
  );
});
