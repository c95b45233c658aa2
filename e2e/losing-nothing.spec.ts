import type { APIRequestContext, Route } from '@playwright/test';
import { expect, test } from './test.ts';
import { alive, call, fresh, signIn } from './company.ts';

// Screens that lose nothing: a quantity without its lot, a lot scanned on a phone, one order's
// stops under another's address, a plan that was changed and not kept.
test('a quantity without its lot is told, and a lot is picked by scan on a phone', async ({
  page,
  request
}) => {
  const { product, po } = await orderedLots(request);
  const so = fresh('SO');
  await signIn(page, 'wilf');
  await page.goto(`/receive/${po}`);
  await alive(page);
  await page.getByLabel('Quantity, each, row 1').fill('3');
  await page.getByLabel('Quantity, each, row 1').press('Tab');
  await expect(page.getByText(`${product} picked needs a lot here`).first()).toBeVisible();
  await page.getByLabel('Lot, row 1').fill(`${product}-L`);
  await page.getByLabel('Lot, row 1').press('Tab');
  await page.getByRole('button', { name: 'Book in 3' }).click();
  await expect(page.getByRole('heading', { name: `Booked in on ${po}` })).toBeVisible();

  await call(request, 'PUT', `orders/sales/${so}`, {
    ...{ partner: 'PILOTS', due: '2030-01-01' },
    lines: [{ product, quantity: '3' }]
  });
  await call(request, 'PUT', `orders/sales/${so}/pick-list`, {
    lines: [{ line: 1, lot: `${product}-L`, quantity: '3' }]
  });
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`/ship/${so}/pick`);
  await alive(page);
  await page.getByLabel('How much, where not all of it').fill('2');
  await page.getByLabel('Scan a lot or serial').fill(`${product}-L`);
  await page.getByLabel('Scan a lot or serial').press('Enter');
  await expect(page.getByRole('status')).toContainText(
    `2 each of ${product}-L of ${product} picked`
  );
  await page.getByLabel('Scan a lot or serial').fill(`${product}-L`);
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect(page.getByText('1 of 1')).toBeVisible();
});

test('going back shows the stops of the order in the address', async ({ page, request }) => {
  const product = fresh('STOP');
  await call(request, 'PUT', `products/${product}`, {
    ...{ name: 'stop', unit: 'each', decimals: 0, made: false, marking: 'lot' }
  });
  const orders = [fresh('SO'), fresh('SO')];
  for (const [n, so] of orders.entries()) {
    await call(request, 'POST', 'receipts', {
      ...{ document: `${so}-R`, supplier: 'GANNET' },
      lines: [
        {
          ...{ product, place: 'QW-A1', quantity: '1' },
          marks: [{ lot: `${product}-${n}`, quantity: '1' }]
        }
      ]
    });
    await call(request, 'PUT', `orders/sales/${so}`, {
      ...{ partner: 'PILOTS', due: '2030-01-01' },
      lines: [{ product, quantity: '1' }]
    });
    await call(request, 'PUT', `orders/sales/${so}/pick-list`, {
      lines: [{ line: 1, lot: `${product}-${n}`, quantity: '1' }]
    });
  }
  const [one, other] = orders as [string, string];
  const shows = async (so: string, lot: string) => {
    await expect(page.getByRole('heading', { name: `Pick ${so}` })).toBeVisible();
    await expect(page.locator('.stops')).toContainText(lot);
  };
  await signIn(page, 'wilf');
  await page.goto(`/ship/${one}/pick`);
  await alive(page);
  await shows(one, `${product}-0`);
  await page.evaluate((href) => {
    const link = document.body.appendChild(document.createElement('a'));
    link.href = href;
    link.click();
  }, `/ship/${other}/pick`);
  await shows(other, `${product}-1`);
  await page.goBack();
  await shows(one, `${product}-0`);
});

test('a plan that was changed and not kept is not left without asking', async ({ page }) => {
  await signIn(page, 'wilf');
  await page.goto('/setup/plans?plan=GAS');
  await alive(page);
  await page.getByLabel('Where what is received lies first').selectOption('quarantine');
  const asked: string[] = [];
  page.once('dialog', (dialog) => {
    asked.push(dialog.message());
    void dialog.dismiss();
  });
  await page.getByRole('link', { name: 'Numbering' }).click();
  await expect.poll(() => asked).toEqual(['What you changed is not kept yet. Leave it?']);
  await expect(page.getByLabel('Where what is received lies first')).toHaveValue('quarantine');
  page.once('dialog', (dialog) => void dialog.accept());
  await page.getByRole('link', { name: 'Numbering' }).click();
  await expect(page).toHaveURL(/numbering/);
});

test('an order being written is not left without asking; what was kept is', async ({ page }) => {
  await signIn(page, 'wilf');
  await page.goto('/orders/new?kind=sales');
  await alive(page);
  await page.getByLabel('Quantity of line 1').fill('12');
  const asked: string[] = [];
  page.once('dialog', (dialog) => {
    asked.push(dialog.message());
    void dialog.dismiss();
  });
  await page.getByRole('link', { name: /^Trace/ }).click();
  await expect.poll(() => asked).toEqual(['What you changed is not kept yet. Leave it?']);
  await expect(page.getByLabel('Quantity of line 1')).toHaveValue('12');
  page.once('dialog', (dialog) => void dialog.accept());
  await page.getByRole('link', { name: /^Setup/ }).click();
  await page.getByRole('link', { name: 'Our company' }).click();
  const address = page.getByLabel('Address');
  await address.fill('1 Other Quay');
  await page.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByText('✓ Kept.')).toBeVisible();
  // Nothing would be lost: nothing is asked, and a dialog nobody answers would stop the test here.
  await page.getByRole('link', { name: /^Trace/ }).click();
  await expect(page).toHaveURL(/\/trace/);
});

test('two tabs of one person tell each other what happened to a sheet', async ({
  page,
  context,
  request
}) => {
  const product = fresh('TAB'),
    po = fresh('PO');
  await call(request, 'PUT', `products/${product}`, {
    ...{ name: 'tabbed', unit: 'each', decimals: 0, made: false, marking: 'lot' }
  });
  await call(request, 'PUT', `orders/purchase/${po}`, {
    ...{ partner: 'GANNET', due: '2030-01-01', lines: [{ product, quantity: '5' }] }
  });
  await signIn(page, 'wilf');
  const other = await context.newPage();
  for (const tab of [page, other]) {
    await tab.goto(`/receive/${po}`);
    await alive(tab);
  }
  const open = 'open in another tab of yours';
  await expect(page.getByText(open)).toBeVisible();
  await expect(other.getByText(open)).toBeVisible();
  await other.getByLabel('Lot, row 1').fill(`${product}-1`);
  await expect(page.getByText('was changed in another tab of yours')).toBeVisible();
  await page.getByRole('button', { name: 'Show it as it is now' }).click();
  await expect(page.getByLabel('Lot, row 1')).toHaveValue(`${product}-1`);
  await alive(page);
  await other.getByLabel('Quantity, each, row 1').fill('5');
  await other.getByRole('button', { name: 'Book in 5' }).click();
  await expect(other.getByText(/Booked/).first()).toBeVisible();
  await expect(page.getByText('was booked in another tab of yours')).toBeVisible();
});

test('a click made while a booking is still reading its list anew is not dropped', async ({
  page,
  request
}) => {
  const { product, po } = await orderedLots(request);
  await signIn(page, 'wilf');
  await page.goto(`/receive/${po}`);
  await alive(page);
  const [draft, event] = [held(), held()];
  await page.route('**/api/v1/drafts/**', (route) =>
    route.request().method() === 'DELETE' ? draft.until(route) : route.continue()
  );
  await page.route('**/events/*/__data.json*', (route) => event.until(route));

  await page.getByLabel('Quantity, each, row 1').fill('5');
  await page.getByLabel('Lot, row 1').fill(`${product}-L`);
  await page.getByRole('button', { name: 'Book in 5' }).click();
  await page
    .getByText(/in the ledger, as event/)
    .getByRole('link')
    .click();
  await event.asked;
  // The draft is dropped now, and what is beside the sheet read anew.
  const dropped = page.waitForResponse((answer) => answer.request().method() === 'DELETE');
  draft.go();
  await dropped;
  await page.evaluate(() => new Promise((next) => setTimeout(next, 100)));
  event.go();
  await expect(page).toHaveURL(/\/events\/\d+$/);
  await expect(page.getByRole('heading', { name: po })).toBeVisible();
});

/** A product kept by lot, and five of it on a purchase order. */
async function orderedLots(request: APIRequestContext): Promise<{ product: string; po: string }> {
  const [product, po] = [fresh('LOTS'), fresh('PO')];
  await call(request, 'PUT', `products/${product}`, {
    ...{ name: 'picked', unit: 'each', decimals: 0, made: false, marking: 'lot' }
  });
  await call(request, 'PUT', `orders/purchase/${po}`, {
    ...{ partner: 'GANNET', due: '2030-01-01' },
    lines: [{ product, quantity: '5' }]
  });
  return { product, po };
}

/** An answer kept back until it is let go; `asked` settles when somebody waits for it. */
function held(): { until: (route: Route) => Promise<void>; asked: Promise<void>; go: () => void } {
  let ask = (): void => {};
  let go = (): void => {};
  const asked = new Promise<void>((settle) => (ask = settle));
  const released = new Promise<void>((settle) => (go = settle));
  return {
    asked,
    go,
    until: async (route) => {
      ask();
      await released;
      await route.continue();
    }
  };
}
