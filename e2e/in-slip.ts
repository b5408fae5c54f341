import type { Page } from 'puppeteer-core';

/** Types into a field of the slip, by its path with dashes, in place of what stands there. */
export const typeIn = async (page: Page, field: string, text: string): Promise<void> => {
  const input = `.slipform [id$="-${field}"]`;
  await page.waitForSelector(input);
  await page.click(input);
  await page.keyboard.down('Control');
  await page.keyboard.press('a');
  await page.keyboard.up('Control');
  await page.keyboard.type(text);
  await page.keyboard.press('Tab');
};

/** Chooses in a field of the slip what is found first by a text. */
export const pickIn = async (page: Page, field: string, text: string): Promise<void> => {
  await page.waitForSelector(`.slipform [id$="-${field}"]`);
  await page.click(`.slipform [id$="-${field}"]`);
  await page.keyboard.type(text);
  await page.waitForSelector('.ant-select-dropdown:not(.ant-select-dropdown-hidden) .ant-select-item-option');
  await page.keyboard.press('Enter');
};

/** Completes the slip, and waits until it says what was recorded. */
export const completeSlip = async (page: Page): Promise<void> => {
  await page.waitForSelector('.slipfoot button[type=submit]:not([disabled])', { timeout: 120_000 });
  await page.click('.slipfoot button[type=submit]');
  await page.waitForSelector('.sliphead[role=status]', { timeout: 120_000 });
};
