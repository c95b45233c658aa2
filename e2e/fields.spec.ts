import { sayDistance } from '../src/lib/core/calendar/say-day.ts';
import { expect, test } from './test.ts';
import { alive, call, fresh, signIn } from './company.ts';

// Fields that every screen has: a day typed in any sane way, a code found by a few letters.

test('a day is read as it is typed, shown one way, and what is no day stays and is told', async ({
  page
}) => {
  await signIn(page, 'wilf');
  await page.goto('/orders/new?kind=purchase');
  await alive(page);
  const due = page.getByLabel('Due');
  const year = String(new Date().getFullYear() + 1);
  const distance = sayDistance(`${year}-12-31`, new Date().toISOString().slice(0, 10));
  const short = year.slice(2);
  for (const typed of [`31 dec ${short}`, `3112${short}`, `31.12.${year}`, `${year}-12-31`]) {
    await due.fill(typed);
    await expect(page.getByText(`31 Dec ${year}, ${distance}`, { exact: true })).toBeVisible();
    await page.getByLabel('Note').focus();
    await expect(due).toHaveValue(`31 Dec ${year}`);
  }
  await due.fill('31 foo 27');
  await expect(page.getByText('No day I can read')).toBeVisible();
  await page.getByLabel('Note').focus();
  await expect(due).toHaveValue('31 foo 27');
  await expect(due).toHaveAttribute('aria-invalid', 'true');
});

test('a month alone is its end where goods expire, in the grid of a receipt', async ({ page }) => {
  await signIn(page, 'wilf');
  await page.goto('/opening');
  await alive(page);
  const expires = page.getByLabel('Expires, row 1');
  await page.getByLabel('Product, row 1').fill('FILT-P3');
  await expires.fill('2/28');
  await page.getByLabel('Product, row 1').focus();
  await expect(expires).toHaveValue('29 Feb 2028');
});

test('a supplier is found by letters of the name, with the keyboard alone', async ({ page }) => {
  await signIn(page, 'wilf');
  await page.goto('/orders/new?kind=purchase');
  await alive(page);
  const supplier = page.getByRole('combobox', { name: 'Supplier' });
  await supplier.focus();
  await page.keyboard.type('pellw');
  await expect(page.getByRole('option', { name: /PELLWORM/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(supplier).toHaveValue('PELLWORM');
  await expect(page.getByRole('option')).toHaveCount(0);
  // Nobody is called so: it stays, and is told.
  await supplier.fill('nobody at all');
  await page.keyboard.press('Tab');
  await expect(page.getByText('No supplier is called so.')).toBeVisible();
  await expect(supplier).toHaveValue('nobody at all');
  // What was chosen says its unit beside the amount.
  const product = page.getByRole('combobox', { name: 'Product of line 1' });
  await product.fill('HEAD-A');
  await page.keyboard.press('Tab');
  await expect(page.getByRole('row').filter({ has: product })).toContainText('each');
});

test('what is refused leads to how it is done, beside the sheet and not instead of it', async ({
  page,
  request
}) => {
  const order = fresh('PO');
  await call(request, 'PUT', `orders/purchase/${order}`, {
    ...{ partner: 'PELLWORM', due: new Date().toISOString().slice(0, 10) },
    lines: [{ product: 'HEAD-A', quantity: '2' }]
  });
  await signIn(page, 'ines');
  await page.goto(`/receive/${order}`);
  await alive(page);
  await call(request, 'PATCH', `orders/purchase/${order}`, { closed: true });
  await page.getByLabel('Serial, row 1').fill(fresh('HOW'));
  const how = page.getByRole('alert').getByRole('link', { name: 'Enter an order' });
  await expect(how).toHaveAttribute('target', '_blank');
  const opened = page.waitForEvent('popup');
  await how.click();
  await expect((await opened).getByRole('heading', { name: 'Enter an order' })).toBeVisible();
  await expect(page.getByLabel('Serial, row 1')).toHaveValue(/^HOW/);
});
