// Letting somebody in: a role is copied and changed, an account made, its role given, its password set by the link, and what it then sees.
import { expect, test } from '@jest/globals';
import { endpoints } from '@gremium/contract';
import type { Page } from 'puppeteer-core';
import { one, signIn, sql } from '../server/test/harness';
import { goTo, hasSettled, kept, openPage, press, sees, takeOption } from './browser';
import { type Story, story } from './story';

let running: Story['running'];
let page: Story['page'];
let browser: Story['browser'];
story((told) => ({ running, page, browser } = told));

const fill = async (at: Page, selector: string, text: string): Promise<void> => {
  await at.waitForSelector(selector);
  await at.click(selector, { count: 3 });
  await at.keyboard.type(text);
};
const choose = async (id: string, text: string): Promise<void> => {
  await page.waitForSelector(`#${id}`);
  await page.click(`#${id}`);
  await page.keyboard.type(text);
  await takeOption(page, text);
};

const PASSWORD = 'heron-on-the-quay';

test('a role is copied, changed, given to somebody invited, who sees with it just what it says', async () => {
  await kept(page, 'access', async () => {
    await goTo(page, `${running.address}/setup/roles/manager`);
    await press(page, 'Copy');
    await sees(page, 'Manager, copy');
    await fill(page, '.roleinputs input', 'Port doctor');
    // pay from the keyboard: nothing, then seen
    await page.focus('[role=radiogroup][aria-label="Pay"] input:checked');
    await page.keyboard.press('1');
    await press(page, 'Make role');
    await sees(page, 'Role Port doctor saved.');
    await hasSettled(page);
    expect(new URL(page.url()).pathname).toBe('/setup/roles/port_doctor');
    const { pay } = await one<{ pay: string }>(
      running.owner,
      sql`select rights ->> 'pay' as pay from role_version where code = 'port_doctor' and superseded_by is null`,
    );
    expect(pay).toBe('view');

    await press(page, 'Access');
    await press(page, 'Add an account');
    await fill(page, '.newaccount input', 'Märta Ekström');
    await fill(page, '.newaccount label:nth-of-type(2) input', 'marta.ekstrom@vessmar.example');
    await press(page, 'Make account with a one-time link');
    const link = await (await page.waitForSelector('.onetimelink input'))!.evaluate(
      (input) => (input as HTMLInputElement).value,
    );
    await press(page, 'Give a role');
    await sees(page, 'No role: this account sees nothing.');
    await press(page, 'Give a role');
    await choose('give-role', 'Port doctor');
    await choose('condition-next', 'a branch');
    await choose('names-branch', 'Tallinn Harbour');
    await page.waitForFunction(() => /Adds [1-9]\d* people/.test(document.body.innerText));
    const said = await page.$eval('.giveform .indigo', (line) => (line as HTMLElement).innerText);
    await press(page, 'Give role');
    await sees(page, 'Port doctor in Tallinn Harbour', '.gift');

    const other = await openPage((await browser.createBrowserContext()) as never);
    await other.goto(link);
    await fill(other, '#password', PASSWORD);
    await press(other, 'Set password');
    await sees(other, 'Set. You can sign in now.');
    await other.close();
    const doctor = await signIn(running.address, 'marta.ekstrom@vessmar.example', PASSWORD);
    const { total } = await doctor.call(endpoints.people, { query: { limit: 1 } });
    expect(said).toContain(`Adds ${total} people`);
    expect(doctor.viewer?.grants[0]?.sections['pay']).toBe('view');

    // retired, it is offered to nobody any more, and whoever has it keeps it
    await goTo(page, `${running.address}/setup/roles/port_doctor`);
    // a name that is typed and not saved is not its name yet
    await fill(page, '.roleinputs input', 'Ship’s surgeon');
    await press(page, 'Retire');
    await sees(page, 'Role Port doctor is retired.');
    await sees(page, 'who has it keeps it', '.rolehead');
    await sees(page, 'Märta Ekström', '.roleaside');
    await sees(page, 'Bring back');
    expect((await doctor.call(endpoints.people, { query: { limit: 1 } })).total).toBe(total);
    const { id } = await one<{ id: number }>(
      running.owner,
      sql`select id from account where email = 'marta.ekstrom@vessmar.example'`,
    );
    await goTo(page, `${running.address}/setup/access/${id}`);
    await sees(page, 'Port doctor in Tallinn Harbour', '.gift');
    await press(page, 'Give a role');
    await page.waitForSelector('#give-role');
    await page.click('#give-role');
    const offered = await page.$$eval('.ant-select-item-option', (all) =>
      all.map((one) => (one as HTMLElement).innerText),
    );
    expect(offered).toContain('Auditor');
    expect(offered).not.toContain('Port doctor');
  });
});
