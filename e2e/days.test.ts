// Days as people type them: one table through the keys of a slip, a section, a condition and the lens, in both languages, and
// through a file; a leaving and a hire typed as people type, at two heights of the window.
import { describe, expect, test } from '@jest/globals';
import { endpoints, movementOf } from '@gremium/contract';
import type { Page } from 'puppeteer-core';
import { STANDS, type Spelling, spellings } from '../core/test/spellings-of-days';
import { many, maybeOne, one, settled, sql, takeIn, vacantPosition } from '../server/test/harness';
import { de } from '../web/src/texts/de';
import { en } from '../web/src/texts/en';
import { focusOn, goTo, kept, press, sees } from './browser';
import { reportWords } from '../web/src/reports/report-words';
import { type Story, story } from './story';

let running: Story['running'];
let page: Story['page'];
let admin: Story['admin'];
story((told) => ({ running, page, admin } = told));

type Language = 'en' | 'de';

const inWords = (day: string, language: Language): string =>
  new Intl.DateTimeFormat(language === 'de' ? 'de' : 'en-GB', { dateStyle: 'full', timeZone: 'UTC' }).format(
    new Date(`${day}T00:00:00Z`),
  );

const speak = async (language: Language): Promise<void> => {
  await page.evaluate((chosen: string) => localStorage.setItem('gremium-language', chosen), language);
};

/** Puts a text into an input in place of what stands there, letter by letter. */
const type = async (at: Page, selector: string, text: string): Promise<void> => {
  await at.waitForSelector(selector, { timeout: 120_000 });
  await focusOn(at, selector);
  await at.keyboard.type(text);
};

/** Puts the day that is to stand there before, as one. */
const reset = async (at: Page, selector: string): Promise<void> => {
  await focusOn(at, selector);
  await at.keyboard.sendCharacter(STANDS);
  await at.keyboard.press('Tab');
};

const said = (at: Page, within: string): Promise<string> =>
  at.evaluate((where: string) => {
    const found = document.querySelector(`${where} .understood, ${where} .source.brick`);
    return ((found as HTMLElement | null)?.innerText ?? '').replace(/\s+/g, ' ').trim();
  }, within);

const sentence = (code: string, language: Language): string =>
  (language === 'de' ? de : en).problem[code as 'day_unread'];

/** What is to be said below an input: the day in words with its weekday, or the sentence and the days offered. */
const expected = ({ is, offers = [] }: Spelling, language: Language): string => {
  if (/^\d/.test(is)) return inWords(is, language);
  const or = ` ${(language === 'de' ? de : en).or} `;
  return `! ${sentence(is, language)} ${offers.map((day) => inWords(day, language)).join(or)}`.trim();
};

const until = async (at: Page, within: string, wanted: string): Promise<void> => {
  await at
    .waitForFunction(
      (where: string, text: string) => {
        const found = document.querySelector(`${where} .understood, ${where} .source.brick`);
        return ((found as HTMLElement | null)?.innerText ?? '').replace(/\s+/g, ' ').trim() === text;
      },
      { timeout: 8000 },
      within,
      wanted,
    )
    .catch(() => undefined);
};

/** Types each spelling of the table, starting each time from the day that stands there; answers what is said of each. */
const through = async (within: string, language: Language): Promise<[string, string][]> => {
  const found: [string, string][] = [];
  const input = `${within} input`;
  for (const spelling of spellings) {
    await reset(page, input);
    await type(page, input, spelling.text);
    await page.keyboard.press('Tab');
    await until(page, within, expected(spelling, language));
    found.push([spelling.text, await said(page, within)]);
  }
  return found;
};

const wanted = (language: Language): [string, string][] =>
  spellings.map((spelling) => [spelling.text, expected(spelling, language)]);

const somebody = () =>
  one<{ id: number; name: string }>(
    running.owner,
    sql`select e.person_id as id, n.given || ' ' || n.family as name from employment_version e
      join person_name_version n on n.person_id = e.person_id and n.superseded_by is null and n.preferred is null
      where e.superseded_by is null and e.valid_from < '2020-01-01' and e.valid_until = 'infinity'
        and not exists (select from employment_version o where o.person_id = e.person_id and o.employment_id <> e.employment_id)
      order by e.person_id limit 1`,
  );

describe.each(['en', 'de'] as const)('in %s', (language) => {
  const texts = language === 'de' ? de : en;

  test('each spelling is taken for its day, or refused, in a slip', async () => {
    await kept(page, `days-slip-${language}`, async () => {
      await speak(language);
      const { id } = await somebody();
      await goTo(page, `${running.address}/people/${id}?on=${STANDS}`);
      await press(page, movementOf('leave').act[language]);
      const slip = '.slip .slipfield:has(input[id$="lastDay"])';
      await page.waitForSelector(`${slip} input`);
      expect(await through(slip, language)).toEqual(wanted(language));
      // what is no day bars the act, and the button says none
      await type(page, `${slip} input`, '31.2.2027');
      await page.waitForFunction(
        () => (document.querySelector('.slipfoot .ant-btn-primary') as HTMLButtonElement | null)?.disabled,
      );
      expect(await page.$eval('.slipfoot', (foot) => (foot as HTMLElement).innerText)).not.toMatch(/20\d\d/);
      await press(page, texts.slip.discard);
    });
  });

  test('the same in a section', async () => {
    await kept(page, `days-section-${language}`, async () => {
      await speak(language);
      const { id } = await somebody();
      await goTo(page, `${running.address}/people/${id}?on=${STANDS}`);
      await press(page, texts.edit.changeSection.replace('{{section}}', texts.section.person));
      const section = '[data-section=person] .from:has(input[id$="from"])';
      await page.waitForSelector(`${section} input`);
      expect(await through(section, language)).toEqual(wanted(language));
      await press(page, texts.edit.discard);
    });
  });

  test('the same in a condition and in the lens', async () => {
    await kept(page, `days-lens-${language}`, async () => {
      await speak(language);
      await goTo(page, `${running.address}/reports/shelf`);
      await press(page, reportWords[language].add);
      await press(page, reportWords[language].asText);
      await type(page, '.conditiontext', `contract.fixedUntil < day("${STANDS}")`);
      await press(page, reportWords[language].asPicked);
      const condition = '.conditionpart .dayinput';
      await page.waitForSelector(`${condition} input`);
      expect(await through(condition, language)).toEqual(wanted(language));

      await goTo(page, `${running.address}/people?on=${STANDS}`);
      await page.click('.lens .day');
      const lens = '.lens-panel form:first-of-type';
      await page.waitForSelector(`${lens} input`);
      const found: [string, string][] = [];
      for (const spelling of spellings) {
        await type(page, `${lens} input`, spelling.text);
        if (!/^\d/.test(spelling.is)) await page.keyboard.press('Enter');
        await until(page, lens, expected(spelling, language));
        found.push([spelling.text, await said(page, lens)]);
      }
      expect(found).toEqual(wanted(language));
    });
  });

  test.each([800, 650])('a leaving and a hire are typed as people type, %d high', async (height) => {
    await kept(page, `typed-days-${language}-${height}`, async () => {
      await speak(language);
      await page.setViewport({ width: 1280, height });
      const { id } = await somebody();
      await goTo(page, `${running.address}/people/${id}`);
      await press(page, movementOf('leave').act[language]);
      const lastDay = '.slip input[id$="lastDay"]';
      await type(page, lastDay, '31/3/27');
      await sees(page, inWords('2027-03-31', language), '.slip');
      // on to the reason: the day stays what was typed
      await page.keyboard.press('Tab');
      await page.waitForFunction(
        () =>
          /2027/.test(
            (document.querySelector('.slipfoot .ant-btn-primary') as HTMLElement | null)?.innerText ?? '',
          ),
        { timeout: 120_000 },
      );
      const button = await page.$eval('.slipfoot .ant-btn-primary', (one) => (one as HTMLElement).innerText);
      expect(button).toMatch(/31\.? M(ar|är)\.? ?(z|ch)? ?2027|31\.? M\S+ 2027/);
      // a draft is kept a moment after what was typed
      let draft: { day: string } | undefined;
      for (let n = 0; !draft && n < 100; n++) {
        await new Promise((resolve) => setTimeout(resolve, 200));
        draft = await maybeOne<{ day: string }>(
          running.owner,
          sql`select input ->> 'lastDay' as day from movement where entry_number is null and kind = 'leave' order by kept_at desc limit 1`,
        );
      }
      expect(draft?.day).toBe('2027-03-31');
      await press(page, texts.slip.discard);

      // no day is another one: it stays, is named, and the offer is taken
      const position = await vacantPosition(running, admin);
      await goTo(page, `${running.address}/structure/positions/${position}`);
      await press(page, movementOf('hire').act[language]);
      const first = '.slip input[id$="firstDay"]';
      await type(page, first, '30.2.2027');
      await page.keyboard.press('Tab');
      await sees(page, `! ${sentence('day_unreal', language)}`, '.slip');
      expect(await page.$eval(first, (input) => (input as HTMLInputElement).value)).toBe('30.2.2027');
      await press(page, inWords('2027-03-01', language));
      await sees(page, inWords('2027-03-01', language), '.slip .understood');
      await press(page, texts.slip.discard);
      await page.setViewport({ width: 1280, height: 800 });
    });
  });
});

test('a file asks once which comes first where nothing tells, and refuses what contradicts the rest', async () => {
  const people = await many<{ number: string }>(
    running.owner,
    sql`select number from person_version where superseded_by is null order by person_id limit 6`,
  );
  const rows = (days: readonly string[]) => days.map((text, i) => `${people[i]!.number},${text}`);
  const file = (days: readonly string[]) => ['Number,Birth date', ...rows(days)].join('\n');
  const asked = await takeIn(admin, 'asked.csv', file(['03/04/1987', '05/06/1988']));
  expect(asked).toMatchObject({ state: 'in_repair', counts: { refused: 2 } });
  const column = asked.columns.find(({ field }) => field === 'birthDate');
  expect(column?.days).toEqual({ order: null, chosen: false, example: '03/04/1987', told: null });
  await kept(page, 'days-in-a-file', async () => {
    await speak('en');
    await goTo(page, `${running.address}/files/imports/${asked.id}`);
    await sees(page, `Is 03/04/1987 ${inWords('1987-04-03', 'en')} or ${inWords('1987-03-04', 'en')}`);
    await press(page, inWords('1987-03-04', 'en'));
    await sees(page, `03/04/1987 is ${inWords('1987-03-04', 'en')}, as chosen`);
  });
  const chosen = await settled(admin, asked.id);
  expect(chosen.counts).toMatchObject({ changed: 2, refused: 0 });
  const { rows: read } = await admin.call(endpoints.importRows, {
    params: { id: asked.id },
    query: { limit: 10 },
  });
  const births = read.map(({ changes }) => changes.find(({ field }) => field === 'birthDate')?.is);
  expect(births).toEqual(['1987-03-04', '1988-05-06']);

  const told = await takeIn(
    admin,
    'told.csv',
    file(['25/04/1987', '26/04/1987', '4/25/1987', '03/04/1987', '3.5.15']),
  );
  expect(told.counts).toMatchObject({ refused: 2, changed: 3 });
  expect(told.columns[1]?.days).toMatchObject({ order: 'day_first', told: '25/04/1987' });
  const refused = await admin.call(endpoints.importRows, {
    params: { id: told.id },
    query: { limit: 10, status: 'refused' },
  });
  expect(
    refused.rows.map(({ faults }) => faults.map(({ problem, offers }) => [problem.code, ...offers])),
  ).toEqual([[['day_order', '1987-04-25']], [['birth_year_unclear', '1915-05-03', '2015-05-03']]]);
});

test('the table of spellings through a file: each is the same day, or refused alike', async () => {
  const own = spellings.filter(({ counted }) => !counted);
  expect(spellings.length).toBeGreaterThanOrEqual(30);
  const people = await many<{ number: string }>(
    running.owner,
    sql`select distinct p.person_id, p.number from person_version p join employment_version e on e.person_id = p.person_id and e.superseded_by is null
      where p.superseded_by is null and e.valid_until = 'infinity' order by p.person_id limit ${own.length}`,
  );
  // most of them tell that the day comes first: the few that could be otherwise are read so
  const content = own.map(({ text }, i) => `${people[i]!.number};"${text}"`);
  const { id } = await takeIn(admin, 'spellings.csv', ['Number;Seniority date', ...content].join('\n'));
  const { rows } = await admin.call(endpoints.importRows, { params: { id }, query: { limit: 100 } });
  const found = own.map(({ text }, i) => {
    const row = rows.find(({ cells }) => cells[0] === people[i]!.number);
    const fault = row?.faults.find(({ field }) => field === 'seniorityDate');
    const change = row?.changes.find(({ field }) => field === 'seniorityDate');
    return [text, fault ? [fault.problem.code, ...fault.offers].join(' ') : String(change?.is ?? 'same')];
  });
  expect(found).toEqual(own.map(({ text, is, offers = [] }) => [text, [is, ...offers].join(' ')]));
});
