// npm run screenshots: a picture of each main view, from the demo with the clock pinned, into docs/screenshots.
import { readFileSync } from 'node:fs';
import { migrate, ownerPool } from '@gremium/server';
import { fillWithDemo } from '../demo/make';
import { type MovementKind, endpoints } from '@gremium/contract';
import { goTo, openBrowser, openPage, signInPage } from '../e2e/browser';
import { asDemo, startServer, takeIn, vacantPosition } from '../server/test/harness';
import { startThrowAway } from './cluster.mjs';
import { buildPages } from './pages.mjs';

buildPages();
const cluster = await startThrowAway();
const url = `${cluster.url}/postgres`;
const owner = ownerPool(url);
await migrate(owner);
await fillWithDemo(owner, '2026-11-23' as never);
await owner.end();
const running = await startServer('demo', { url });
const browser = await openBrowser();
const page = await openPage(browser);
const admin = await asDemo(running.address, 'admin');

/** Opens a page of the application, waits for what it must show, and takes its picture. */
const shoot = async (name: string, path: string, awaited: string) => {
  await goTo(page, `${running.address}${path}`);
  await page.waitForSelector(awaited);
  await page.evaluate(() => document.fonts.ready);
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
};
const look = (language: string, theme: string) =>
  page.evaluate(
    (chosen: string, mode: string) => {
      localStorage.setItem('gremium-language', chosen);
      localStorage.setItem('gremium-theme', mode);
    },
    language,
    theme,
  );

/** A section of the organisation's own, with a few fields. */
const ownFields = async () => {
  const make = async (kind: 'own_section' | 'own_field', values: object) =>
    (
      await admin.call(endpoints.createRecord, {
        params: { kind },
        body: { from: '-infinity', sections: { [kind]: values } } as never,
      })
    ).id;
  const label = (en: string, de: string) => ({ en, de });
  const sectionId = await make('own_section', {
    ...{ code: 'UNIFORM', label: label('Uniform', 'Dienstkleidung'), of: 'person' },
    ...{ several: false, sensitive: false, place: 0, editedBy: ['administrator', 'specialist'] },
  });
  const fields = [
    ['SIZE', label('Jacket size', 'Jackengröße'), 'number', { least: '30', most: '70' }],
    ['BADGE', label('Badge', 'Ausweis'), 'text', { pattern: 'A-000', unique: true, required: true }],
    ['GIVEN', label('Handed out on', 'Ausgegeben am'), 'day', {}],
    ['RECEIPT', label('Receipt', 'Quittung'), 'file', {}],
  ] as const;
  for (const [place, [code, name, kind, more]] of fields.entries())
    await make('own_field', {
      sectionId,
      code,
      label: name,
      kind,
      required: false,
      place: place * 10,
      ...more,
    });
};

await shoot('sign-in', '/', '.demo button');
await signInPage(page, running.address, 'Tuuli');
const vacant = await vacantPosition(running, admin, '%Tallinn%');
const target = await vacantPosition(running, admin, '%Larvik%');
const { units } = await admin.call(endpoints.outline, {});
const unitNamed = (name: string) => units.find((unit) => unit.name === name)!;
const head = unitNamed('Tallinn Harbour').head!;
const harbours = unitNamed('Harbours').id;
const keep = (key: string, kind: MovementKind, about: string, input: Record<string, unknown>) =>
  admin.call(endpoints.keepMovement, { params: { key }, body: { kind, about, input, typed: {} } });
await keep('pictureofhire', 'hire', `position ${vacant}`, {
  positionId: vacant,
  firstDay: '2026-12-01',
  person: {
    name: { given: 'Ylva', family: 'Nystrand' },
    contacts: [{ kind: 'email', value: 'ylva.nystrand@new.example' }],
  },
  contract: {},
  pay: [{ amount: '2450' }],
});
await keep('pictureoftransfer', 'transfer', `person ${head.personId}`, {
  personId: head.personId,
  positionId: target,
  firstDay: '2027-03-01',
});
await shoot('outline', `/structure/outline?turned=${harbours}`, '.top-unit');
await shoot('position', `/structure/positions/${vacant}?in=${unitNamed('Tallinn Harbour').id}`, '.axisbox');
await shoot('hire', `/structure/positions/${vacant}?on=2026-12-01&slip=pictureofhire`, '.effects');
await shoot('person', `/people/${head.personId}?in=${harbours}`, '.chronicle li');
await ownFields();
await shoot('own-fields', '/setup/fields', '.ownfield');
await shoot('organisation', '/setup/organisation', '#part-holiday tbody tr');
await shoot('access', '/setup/access/2', '.sightlines');
await shoot('roles', '/setup/roles/wages_clerk', '.levels');
const { rows: kept } = await admin.call(endpoints.reference, { query: {} });
const coded = (section: string, code: string) =>
  kept.find((row) => row.section === section && row.values['code'] === code)?.thing ?? 0;
await keep('pictureofjob', 'change_job', `job ${coded('job', 'MASTER')}`, {
  jobId: coded('job', 'MASTER'),
  firstDay: '2027-01-01',
  hours: 3500,
});
await shoot('job', `/structure/jobs/${coded('job', 'MASTER')}?slip=pictureofjob`, '.concerned .followers');
await shoot('unit', `/structure/units/${unitNamed('Tallinn Harbour').id}`, '.recordbody');
const { lines } = await admin.call(endpoints.movementLines, { query: {} as never });
const late = lines.find(({ open }) => open.length > 1) ?? lines.find(({ open }) => open.length > 0)!;
await shoot('movements', `/movements/${late.id}`, '.saying');
await shoot('transfer', `/people/${head.personId}?on=2027-03-01&slip=pictureoftransfer`, '.effects');
const { entries } = await admin.call(endpoints.journal, { query: { limit: 1 } });
const last = entries[0]!.number;
await shoot('journal-undo', `/setup/journal/${last}?undo=${last}`, '.undo-plan li');
const taken = await takeIn(admin, 'season_crew_2027.csv', readFileSync('demo/files/season-crew-faulty.csv'));
await shoot('import', `/files/imports/${taken.id}`, '.repairgrid tbody tr');
const report = { measure: 'turnover', by: 'division', from: '2025-11', until: '2026-10' } as const;
const { rows } = await admin.call(endpoints.crossTable, { query: report });
const row = rows.find(({ label }) => label.en === 'Harbours')!;
await shoot('report', `/reports/cross-table?cell=${row.key}~2026-10`, '.whypeople li');
await shoot('list-report', '/reports/list/-6', 'table.report tbody .groupline');
const where = encodeURIComponent('contract.fixedUntil < on + 180 && pay.amount > 2400');
await shoot('people-table', `/people?as=table&where=${where}`, '.tablebox tbody td');
await look('de', 'dark');
await shoot('outline-german-dark', `/structure/outline?turned=${harbours}&on=2027-03-05`, '.top-unit');
await browser.close();
await running.close();
cluster.remove();
process.exit(0);
