import { axe } from './axe.ts';
import { open, signIn, still, signOut } from './company.ts';
import { tourSteps } from '../src/lib/ui/frame/tour-steps.ts';
import { expect, test } from './test.ts';

// The tour of ten minutes through the demo, from Today to its end, and left on the way.

test('every stop of the tour is there, says what is shown, and can be gone back from', async ({
  page
}) => {
  await signIn(page, 'wilf');
  await open(page, '/');
  await page.getByRole('button', { name: 'A tour in ten minutes' }).click();
  const panel = page.getByRole('region', { name: 'Tour' });
  await expect(panel).toContainText('1 of 11');
  expect(await axe(page)).toEqual([]);
  // The id of the lot it follows is the database's.
  const paths = tourSteps(0).map(({ path }) => path.replace('/0', '/\\d+').replace('?', '\\?'));
  for (const [at, path] of paths.entries()) {
    if (at > 0) await panel.getByRole('button', { name: /^Next: / }).click();
    await expect(page).toHaveURL(new RegExp(`${path}$`));
    await expect(panel).toContainText(`${at + 1} of 11`);
    await expect(page).toHaveTitle(/ · Earmark$/);
    await expect(page.getByText(/^(Nothing here|Something went wrong)$/)).toHaveCount(0);
  }
  await panel.getByRole('button', { name: 'Back' }).click();
  await expect(page).toHaveURL(/\/trace\/records\/shipped$/);
  await panel.getByRole('button', { name: 'Next: Your own goods' }).click();
  await panel.getByRole('button', { name: 'End' }).click();
  await expect(panel).toHaveCount(0);
});

test('whoever looks around is led back, a reload goes on, and another person has no tour', async ({
  page
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, 'tomas');
  await open(page, '/');
  await page.getByRole('button', { name: 'A tour in ten minutes' }).click();
  const panel = page.getByRole('region', { name: 'Tour' });
  await panel.getByRole('button', { name: 'Next: What comes in' }).click();
  await expect(page).toHaveURL(/\/receive\/PO-2142$/);
  await open(page, '/on-hand');
  await still(page);
  await expect(panel).toContainText('2 of 11');
  await panel.getByRole('link', { name: 'To this stop' }).click();
  await expect(page).toHaveURL(/\/receive\/PO-2142$/);
  await page.setViewportSize({ width: 1280, height: 800 });
  await signOut(page);
  await signIn(page, 'ines');
  await open(page, '/');
  await expect(page.getByRole('button', { name: 'A tour in ten minutes' })).toBeVisible();
  await expect(panel).toHaveCount(0);
});

test('the tour is left at any stop, and begins again from Today', async ({ page }) => {
  await signIn(page, 'wilf');
  await open(page, '/');
  await page.getByRole('button', { name: 'A tour in ten minutes' }).click();
  const panel = page.getByRole('region', { name: 'Tour' });
  await panel.getByRole('button', { name: 'Next: What comes in' }).click();
  await panel.getByRole('button', { name: 'Leave the tour' }).click();
  await expect(panel).toHaveCount(0);
  await open(page, '/');
  await page.getByRole('button', { name: 'A tour in ten minutes' }).click();
  await expect(panel).toContainText('1 of 11');
});
