// A headless browser against a server of its own; the one place that knows how Chromium is started.
import { existsSync, mkdirSync, mkdtempSync } from 'node:fs';
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
  await page.setViewport({ width, height });
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
