// A headless browser against a server of its own; the one place that knows how Chromium is started.
import { existsSync, mkdirSync, mkdtempSync, readFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import puppeteer, { type Browser, type Page } from 'puppeteer-core';

const candidates = [process.env['CHROMIUM'], '/usr/bin/chromium', '/usr/bin/chromium-browser'];

export const openBrowser = (): Promise<Browser> => {
  const executablePath = candidates.find((file): file is string => !!file && existsSync(file));
  if (!executablePath) throw new Error('Chromium is missing; npm test installs it');
  return puppeteer.launch({
    executablePath,
    headless: true,
    userDataDir: mkdtempSync(path.join(os.tmpdir(), 'gremium-chromium-')),
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--lang=en',
    ],
  });
};

export const openPage = async (browser: Browser, { width = 1280, height = 800 } = {}): Promise<Page> => {
  const page = await browser.newPage();
  // tests wait as long as it takes: a busy machine is no fault
  page.setDefaultTimeout(120_000);
  await page.setViewport({ width, height });
  await page.emulateTimezone('Europe/Helsinki');
  page.on('pageerror', (error) => console.error(error));
  await page.emulateMediaFeatures([{ name: 'prefers-color-scheme', value: 'light' }]);
  return page;
};

/** Runs a step; if it fails, the page is kept as a picture in a folder that git ignores. */
export const kept = async <T>(page: Page, name: string, step: () => Promise<T>): Promise<T> => {
  try {
    return await step();
  } catch (error) {
    mkdirSync('.test', { recursive: true });
    await page.screenshot({ path: `.test/${name}.png` });
    throw error;
  }
};

/** Waits until the page says that nothing is under way, twice (what was drawn just now asks a moment later), and its letters are there. */
export const hasSettled = async (page: Page): Promise<void> => {
  for (let n = 0; n < 2; n++) {
    await page.waitForFunction(
      () =>
        document.documentElement.dataset['settled'] === 'yes' &&
        document.fonts.status === 'loaded' &&
        !document.querySelector('.waiting'),
    );
    await new Promise((resolve) => setTimeout(resolve, 80));
  }
};

/** Goes to an address, and waits until the page has settled. */
export const goTo = async (page: Page, address: string): Promise<void> => {
  await page.goto(address);
  await hasSettled(page);
};

/** Loads the page anew, and waits until it has settled. */
export const reload = async (page: Page): Promise<void> => {
  await page.reload();
  await hasSettled(page);
};

/** Signs a page in as one of the demo's accounts, as the sign-in page does. */
export const signInPage = async (page: Page, address: string, who: string): Promise<void> => {
  await page.goto(address);
  await page.waitForSelector('.demo button');
  await page.evaluate((name: string) => {
    const account = [...document.querySelectorAll('.demo button')].find((button) =>
      button.textContent?.includes(name),
    );
    (account as HTMLElement | undefined)?.click();
  }, who);
  await page.waitForSelector('.app');
};

/** Serious and critical findings of the accessibility check on the page as it stands. */
export const findings = async (page: Page): Promise<string[]> => {
  await page.evaluate(readFileSync('node_modules/axe-core/axe.min.js', 'utf8'));
  return page.evaluate(async () => {
    type Found = { id: string; impact: string; nodes: { html: string }[] };
    const { axe } = window as unknown as { axe: { run: () => Promise<{ violations: Found[] }> } };
    const { violations } = await axe.run();
    return violations
      .filter(({ impact }) => impact === 'serious' || impact === 'critical')
      .map(({ id, nodes }) => `${id}: ${nodes[0]?.html.slice(0, 160)}`);
  });
};

/** The accessible name, or else the text, of what has the focus. */
export const focused = (page: Page): Promise<string> =>
  page.evaluate(() => {
    const at = document.activeElement as HTMLElement | null;
    const label = at?.id ? document.querySelector(`label[for="${CSS.escape(at.id)}"]`)?.textContent : '';
    return (at?.getAttribute('aria-label') || label || at?.textContent || '').replace(/\s+/g, ' ').trim();
  });

/** Goes by the tab key, and by nothing else, to what has a name. */
export const tabTo = async (page: Page, name: string, most = 150): Promise<void> => {
  for (let n = 0; n < most; n++) {
    await page.keyboard.press('Tab');
    if ((await focused(page)).startsWith(name)) return;
  }
  throw new Error(`${name} is not reached by the tab key`);
};

/** Waits until a text stands somewhere on the page, or in what a selector names. */
export const sees = (page: Page, text: string, selector = 'body'): Promise<unknown> =>
  page.waitForFunction(
    (wanted: string, where: string) =>
      [...document.querySelectorAll(where)].some((element) =>
        (element as HTMLElement).innerText.replace(/\s+/g, ' ').includes(wanted),
      ),
    { timeout: 120_000 },
    text,
    selector,
  );

/** Presses what has an accessible name, as a person would find it (the act of a slip without its day); again where the page drew it anew just then. */
export const press = async (page: Page, name: string, tries = 3): Promise<void> => {
  await page.bringToFront();
  const found = `::-p-aria([name="${name}"]), .slipfoot button::-p-text("${name}, ")`;
  const element = await page.waitForSelector(found, { timeout: 120_000 });
  // what is found by its text may be the text inside of the button
  await page.waitForFunction(
    (found) => !(found as HTMLElement | null)?.closest('button')?.disabled,
    {},
    element,
  );
  try {
    await element?.click();
  } catch (error) {
    if (tries <= 1 || !String(error).includes('detached')) throw error;
    await press(page, name, tries - 1);
  }
};

/** Puts the focus on what a selector names, once it is there: what moves meanwhile is found again. */
export const focusOn = (page: Page, selector: string): Promise<unknown> =>
  page.waitForFunction(
    (wanted: string) => {
      const input = document.querySelector<HTMLInputElement>(wanted);
      input?.focus();
      if (input && 'select' in input) input.select();
      return input !== null && document.activeElement === input;
    },
    {},
    selector,
  );

/** Takes the option of an open picker that was typed, once it is offered. */
export const takeOption = async (page: Page, text: string): Promise<void> => {
  await page.waitForFunction(
    (wanted: string) =>
      [...document.querySelectorAll('.ant-select-item-option')].some(
        (option) => (option as HTMLElement).offsetParent !== null && option.textContent?.includes(wanted),
      ),
    {},
    text,
  );
  await page.keyboard.press('Enter');
};
