import { atOnce, scan } from './at-once.ts';
import { call, fresh, open, purchase, signIn } from './company.ts';
import { expect, test, type APIRequestContext, type Page } from './test.ts';

// A scanner is a keyboard: it types wherever the focus is, in a hand that looks at the goods.

/** Opens the sheet of an order for three serials of its own. */
async function openSheet(page: Page, request: APIRequestContext): Promise<void> {
  const order = await purchase(request, [{ product: 'HEAD-A', quantity: '3' }]);
  await signIn(page, 'ines');
  await open(page, `/receive/${order}`);
}
test.beforeEach(({ page }) => page.clock.install());

const noField = (page: Page): Promise<void> =>
  page.evaluate(() => {
    if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
  });

test('a scan with no field in focus finds what it is of, and none of its letters acts as a key', async ({
  page,
  request
}) => {
  // Its first two letters would go to another screen.
  const serial = fresh('gs').toLowerCase();
  const booked = await call(request, 'POST', 'receipts', {
    ...{ document: fresh('SCAN'), supplier: 'PELLWORM' },
    lines: [{ product: 'HEAD-A', place: 'DN-BENCH', quantity: '1', marks: [{ serial }] }]
  });
  expect(booked.status()).toBe(201);
  await signIn(page, 'wilf');
  await open(page, '/');
  await noField(page);
  await scan(page, serial);
  await expect(page).toHaveURL(/\/marks\/\d+$/);
  await expect(page.getByRole('main').getByText(serial).first()).toBeVisible();

  // Neither does it press the button that has the focus.
  await open(page, '/quality');
  await page.getByRole('link', { name: 'Earmark' }).focus();
  await scan(page, serial);
  await expect(page).toHaveURL(/\/marks\/\d+$/);

  // Two keys by hand are two keys, however close together.
  await noField(page);
  await atOnce(page, async () => {
    await page.keyboard.press('g');
    await page.keyboard.press('q');
  });
  await expect(page).toHaveURL(/\/quality$/);
});

test('a scan over a sheet goes to its line, from wherever the focus is', async ({
  page,
  request
}) => {
  const serial = fresh('OVER');
  await openSheet(page, request);
  await noField(page);
  await scan(page, serial);
  await expect(page.getByLabel('Serial, row 1')).toHaveValue(serial);
});

test('a scanner that ends by Tab means the same as one that ends by Enter', async ({
  page,
  request
}) => {
  const serial = fresh('TAB');
  await openSheet(page, request);
  await page.keyboard.press('Control+k');
  const field = page.getByRole('combobox', { name: /Scan or type/ });
  await expect(field).toBeFocused();
  await scan(page, serial, 'Tab');
  await expect(page.getByLabel('Serial, row 1')).toHaveValue(serial);
  await expect(field).toHaveValue('');
  // The next goes to the next row, and its Tab not to the column beside it.
  await expect(page.getByLabel('Serial, row 2')).toBeFocused();
  await scan(page, `${serial}-2`, 'Tab');
  await expect(page.getByLabel('Serial, row 2')).toHaveValue(`${serial}-2`);
  await expect(page.getByLabel('Serial, row 3')).toBeFocused();
});
