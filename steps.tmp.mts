import { writeFileSync } from 'node:fs';
export default async ({go,press,shot,running,page,admin,endpoints,signInPage}: any) => {
  await signInPage(page, running.address, 'Tuuli');
  const { people } = await admin.call(endpoints.people, { query: { limit: 4 } });
  const nums = [];
  for (const p of people) nums.push((await admin.call(endpoints.personRecord, { params: { id: p.id }, query: {} })).rows.find((r: any) => r.section === 'person').values.number);
  writeFileSync('/tmp/w/Ausgabe.csv', ['Personalnummer;Ausgabe am;Schuhgröße;Trägt sie;Sprachen, in denen der Dienst versehen werden darf', ...nums.map((n: string, i: number) => `${n};${i+1}.2.2026;4${i},5;${['Ja','nein','X','N'][i]};${['Deutsch, Englisch','Englisch','Deutsch','Englisch'][i]}`)].join('\n') + '\n');
  await go('/files/imports');
  const input = await page.waitForSelector('#file-to-take-in'); await input.uploadFile('/tmp/w/Ausgabe.csv'); await page.waitForSelector('.importstep'); await new Promise(r => setTimeout(r, 2500));
  await press('Match again'); await shot('c1');
  await page.evaluate(() => [...document.querySelectorAll('button')].find(b => b.getAttribute('aria-label')?.includes('Sprachen'))?.click());
  await new Promise(r => setTimeout(r, 1200)); await shot('c2');
  await page.evaluate(() => { localStorage.setItem('gremium-language','de'); localStorage.setItem('gremium-theme','dark'); });
  const url = page.url(); await go(url.replace(running.address, '')); await press('Neu zuordnen');
  await page.evaluate(() => [...document.querySelectorAll('button')].find(b => b.getAttribute('aria-label')?.includes('Schuhgr'))?.click());
  await new Promise(r => setTimeout(r, 1200)); await page.evaluate(() => document.querySelector('.columnfield')?.scrollIntoView({block:'center'})); await shot('c3');
  // own fields at hire
  const make = async (kind: string, values: object) => (await admin.call(endpoints.createRecord, { params: { kind }, body: { from: '-infinity', sections: { [kind]: values } } as never })).id;
  const l = (en: string, de: string) => ({ en, de });
  const a = await make('own_section', { code: 'UNIFORM', label: l('Uniform', 'Dienstkleidung'), of: 'person', several: false, sensitive: false, place: 0 });
  await make('own_field', { sectionId: a, code: 'L', label: l('Locker', 'Spind im Umkleideraum des Heimathafens'), kind: 'text', required: true, atHire: true, pattern: 'A-000', place: 0 });
  await make('own_field', { sectionId: a, code: 'D', label: l('Handed out on', 'Ausgegeben am'), kind: 'day', required: false, atHire: true, place: 1 });
  const [{ id }] = (await admin.call(endpoints.positions, { query: { free: 'yes' } })).positions;
  await go(`/structure/positions/${id}?do=hire`); await new Promise(r => setTimeout(r, 1500)); await page.evaluate(() => { const b = document.querySelector('.slipbody'); if (b) b.scrollTop = 300; }); await shot('c4');
};
