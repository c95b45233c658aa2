import type { Page } from './test.ts';

/**
 * Does something while no time passes for the page, however long it takes here. The page's clock
 * must be installed.
 */
export async function atOnce(page: Page, act: () => Promise<void>): Promise<void> {
  await page.clock.pauseAt((await page.evaluate(() => Date.now())) + 1000);
  await act();
  await page.clock.resume();
}

/** A scan as it comes, key by key, with what the scanner is set to end it by. */
export const scan = (page: Page, text: string, end: 'Enter' | 'Tab' = 'Enter'): Promise<void> =>
  atOnce(page, async () => {
    await page.keyboard.type(text);
    await page.keyboard.press(end);
  });
