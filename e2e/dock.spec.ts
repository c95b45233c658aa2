import { axe } from './axe.ts';
import {
  PASSWORD,
  alive,
  call,
  fresh,
  numbersOf,
  open,
  product,
  purchase,
  signIn
} from './company.ts';
import { setLine } from './line.ts';
import { expect, test, type APIRequestContext, type Page } from './test.ts';

/** A product by serial, and an order of so many of it. */
async function ordered(
  request: APIRequestContext,
  quantity: string
): Promise<{ product: string; po: string }> {
  const code = fresh('DOCK');
  await product(request, code, { name: 'kept at the dock', marking: 'serial' });
  return { product: code, po: await purchase(request, [{ product: code, quantity }]) };
}

/** The sheet of an order, with all it needs on this device. */
async function openAtDock(page: Page, po: string): Promise<void> {
  await open(page, `/receive/${po}`);
  await expect(page.getByText('works without a line')).toBeVisible();
}

/** A serial of an order of its own, booked where there is no line, and left on the device. */
async function leftAtDock(
  page: Page,
  request: APIRequestContext
): Promise<{ product: string; po: string }> {
  const { product, po } = await ordered(request, '2');
  await signIn(page, 'ines');
  await openAtDock(page, po);
  await setLine(page, false);
  await page.getByLabel('Serial, row 1').fill(`${product}-1`);
  await page.getByRole('button', { name: 'Book in 1' }).click();
  await page.getByRole('button', { name: 'Book when the line is back' }).click();
  return { product, po };
}

test('the dock goes on without a line: typed, judged, loaded again, left, and booked once when it is back', async ({
  page,
  request
}) => {
  const { product, po } = await ordered(request, '3');
  await signIn(page, 'ines');
  await openAtDock(page, po);
  await setLine(page, false);
  await page.getByLabel('Serial, row 1').fill(`${product}-1`);
  await page.getByLabel('Serial, row 2').fill(`${product}-1`);
  // By the very decision of the server, here.
  await expect(page.getByRole('button', { name: 'next fault' })).toBeVisible();
  await page.getByLabel('Serial, row 2').fill(`${product}-2`);
  await expect(page.getByText('kept on this device only')).toBeVisible();
  await page.getByRole('button', { name: 'No line' }).click();
  expect(await axe(page)).toEqual([]);
  await page.getByRole('button', { name: 'No line' }).click();
  await expect(page.getByRole('button', { name: 'No line' })).toBeVisible();

  await page.reload();
  await alive(page);
  await expect(page.getByLabel('Serial, row 1')).toHaveValue(`${product}-1`);
  await expect(page.getByLabel('Serial, row 2')).toHaveValue(`${product}-2`);
  await page.getByRole('button', { name: 'Book in 2' }).click();
  await expect(page.getByRole('alert')).toContainText('cannot be reached');
  await page.getByRole('button', { name: 'Book when the line is back' }).click();
  await expect(page.getByText(/Left on this device at/)).toBeVisible();
  await expect(page.getByRole('button', { name: /No line · 1 waiting/ })).toBeVisible();
  // What is not kept says so, and what is.
  await page.goto('/value');
  await expect(page.getByRole('heading', { name: 'Earmark cannot be reached' })).toBeVisible();
  await page.getByRole('link', { name: po }).click();
  await alive(page);
  await expect(page.getByText(/Left on this device at/)).toBeVisible();

  expect(await numbersOf(request, product)).toEqual([]);
  await setLine(page, true);
  await expect(page.getByRole('button', { name: /waiting|No line/ })).toBeHidden();
  expect(await numbersOf(request, product)).toEqual([`${product}-1`, `${product}-2`]);
  await open(page, `/receive/${po}`);
  await expect(page.getByText('0 of 1 marked')).toBeVisible();
});

test('what does not hold when the line is back comes back to its sheet, with why', async ({
  page,
  request
}) => {
  const { product, po } = await leftAtDock(page, request);
  // Somebody with a line books the same serial meanwhile.
  const receipt = {
    ...{ document: fresh('R'), supplier: 'GANNET' },
    lines: [{ product, place: 'QW-DOCK', quantity: '1', marks: [{ serial: `${product}-1` }] }]
  };
  const booked = await call(request, 'POST', 'receipts', receipt);
  expect(booked.status(), await booked.text()).toBe(201);
  await setLine(page, true);
  const state = page.getByRole('button', { name: '1 not booked' });
  await expect(state).toBeVisible();
  await state.click();
  const list = page.getByRole('region', { name: 'Kept on this device' });
  await expect(list).toContainText(`${product}-1`);
  await open(page, `/receive/${po}`);
  await expect(page.getByLabel('Serial, row 1')).toHaveValue(`${product}-1`);
  await expect(page.getByRole('button', { name: 'next fault' })).toBeVisible();
  await expect(state).toBeHidden();
});

test('signing out leaves nothing readable on the device, and asks before it loses what waits', async ({
  page,
  context,
  request
}) => {
  const { product, po } = await leftAtDock(page, request);
  await expect(page.getByText(/Left on this device at/)).toBeVisible();
  await page.getByRole('button', { name: 'Sign out', exact: true }).click();
  const asks = page.getByRole('dialog', { name: '1 booking waits on this device' });
  await asks.getByRole('button', { name: 'Stay signed in' }).click();
  await expect(page.getByText(/Left on this device at/)).toBeVisible();
  await page.getByRole('button', { name: 'Sign out', exact: true }).click();
  await context.route('**/api/v1/receipts', (route) => route.abort());
  await setLine(page, true);
  await asks.getByRole('button', { name: /Sign out and lose it/ }).click();
  await expect(page.getByLabel('Password')).toBeVisible();
  await setLine(page, false);
  await page.goto(`/receive/${po}`);
  await expect(page.getByRole('heading', { name: 'Earmark cannot be reached' })).toBeVisible();
  await expect(page.getByText(po)).toBeHidden();
  // It comes by itself once the line is back, and asks who they are.
  await setLine(page, true);
  await expect(page.getByLabel('Password')).toBeVisible();
  expect(await numbersOf(request, product)).toEqual([]);
});

test('a locked device shows nothing that was kept', async ({ page, request }) => {
  const { po } = await ordered(request, '2');
  await signIn(page, 'ines');
  await openAtDock(page, po);
  await page.getByRole('button', { name: 'Lock' }).click();
  const lock = page.getByRole('dialog', { name: 'Locked' });
  await expect(lock).toBeVisible();
  // The worker has heard of it.
  const heard = () => page.evaluate(async () => !!(await caches.match('/locked-here')));
  await expect.poll(heard).toBe(true);
  await setLine(page, false);
  await page.reload();
  await expect(page.getByText('This device is locked.')).toBeVisible();
  await expect(page.getByText(po)).toBeHidden();
  await setLine(page, true);
  await page.goto(`/receive/${po}`);
  await alive(page);
  await page.getByLabel(/Password of/).fill(PASSWORD);
  await page.getByRole('button', { name: 'Come back' }).click();
  await expect(page.getByText('works without a line')).toBeVisible();
});
