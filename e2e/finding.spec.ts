import { expect, test } from './test.ts';
import { alive, call, fresh, signIn, signOut } from './company.ts';

// From the scan field to what is to be done, and back to what was looked at, by keys alone.

test('what is to be done is typed where one stands, and Ctrl+K leads there from a field', async ({
  page,
  request
}) => {
  const serial = fresh('ACT');
  await call(request, 'POST', 'receipts', {
    ...{ document: fresh('ACT'), supplier: 'PELLWORM' },
    lines: [{ product: 'HEAD-A', place: 'DN-BENCH', quantity: '1', marks: [{ serial }] }]
  });
  await signIn(page, 'wilf');
  await page.goto('/orders/new?kind=sales');
  await alive(page);
  await page.getByLabel('Note').fill('stays as it is');
  await page.keyboard.press('Control+k');
  const scan = page.getByRole('combobox', { name: /Scan or type/ });
  await expect(scan).toBeFocused();
  await expect(page.getByLabel('Note')).toHaveValue('stays as it is');
  page.on('dialog', (dialog) => void dialog.accept());

  await scan.fill(`hold ${serial.toLowerCase()}`);
  await scan.press('Enter');
  await expect(page).toHaveURL(/\/marks\/\d+/);
  await alive(page);
  await page.getByLabel('Reason').fill('found by its act');
  await page.getByRole('dialog').getByRole('button', { name: 'Hold' }).click();
  await expect(page.getByRole('button', { name: 'Release …' })).toBeVisible();
  await expect(page.getByLabel('Reason')).toBeHidden();

  await scan.fill('move everything at DN-BENCH');
  await scan.press('Enter');
  await expect(page).toHaveURL(/\/move\?place=DN-BENCH/);
  await expect(page.getByRole('main').getByText(serial)).toBeVisible();

  // Over a sheet, which takes what is scanned, an act is one still.
  await scan.fill('count rack QW-C1');
  await scan.press('Enter');
  await expect(page.getByRole('button', { name: 'Count QW-C1', exact: true })).toBeVisible();

  await scan.fill('new sal');
  await expect(page.getByRole('option', { name: /New sales order/ })).toBeVisible();
  await scan.press('Enter');
  await expect(page.getByRole('heading', { name: 'New sales order' })).toBeVisible();

  // What was looked at stands there before anything is typed, until one signs out.
  await page.goto('/');
  await alive(page);
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('option').first()).toContainText(serial);
  await scan.press('Enter');
  await expect(page).toHaveURL(/\/marks\/\d+$/);
  await signOut(page);
  await expect(page).toHaveURL(/sign-in/);
  expect(await page.evaluate(() => localStorage.getItem('lately-seen'))).toBeNull();
});

test('an act is offered to who may do it, and by what stands on the screen comes first', async ({
  page
}) => {
  await signIn(page, 'noor');
  await page.goto('/');
  await alive(page);
  const scan = page.getByRole('combobox', { name: /Scan or type/ });
  await scan.fill('count QW-C1');
  await expect(page.getByText(/Nothing is known as/)).toBeVisible();
  await expect(page.getByRole('option', { name: /Count/ })).toHaveCount(0);
});
