import type { Page } from '@playwright/test';
import { expect } from './test.ts';

/**
 * Cuts the line, or brings it back, and waits until the worker that keeps the pages knows: the
 * browser tells it a moment after it told the page, and what is loaded in between is a matter of luck.
 */
export async function setLine(page: Page, isThere: boolean): Promise<void> {
  await page.context().setOffline(!isThere);
  // Through the worker, which keeps nothing of an order that is none.
  const ask = () =>
    fetch('/receive/none/__data.json').then(
      () => true,
      () => false
    );
  // A page that loads itself anew meanwhile is asked once more.
  const isHeard = () => page.evaluate(ask).catch(() => null);
  await expect.poll(isHeard).toBe(isThere);
}
