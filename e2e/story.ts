import { afterAll, beforeAll } from '@jest/globals';
import type { Browser, Page } from 'puppeteer-core';
import { type Client, type Running, asDemo, startServer } from '../server/test/harness';
import { openBrowser, openPage, signInPage } from './browser';

/** What a story in the browser is told with: a server over the demo, a page, and a client beside it. */
export type Story = { running: Running; browser: Browser; page: Page; admin: Client };

/** Begins and ends the story of a file; `take` gets what it is told with. Somebody is signed in, unless nobody is to be. */
export const story = (take: (told: Story) => void, who: string | null = 'Tuuli'): void => {
  let told: Story;
  beforeAll(async () => {
    const running = await startServer('demo');
    const browser = await openBrowser();
    const [page, admin] = [await openPage(browser), await asDemo(running.address, 'admin')];
    told = { running, browser, page, admin };
    if (who) await signInPage(page, running.address, who);
    take(told);
  });
  afterAll(async () => {
    await told.browser.close();
    await told.running.close();
  });
};
