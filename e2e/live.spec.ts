import type { APIRequestContext, Page } from '@playwright/test';
import { expect, test } from './test.ts';
import { alive, call, fresh, signIn } from './company.ts';

// What others book shows by itself, and moves nothing under a hand.
const receive = (request: APIRequestContext, document: string) =>
  call(request, 'POST', 'receipts', {
    ...{ document, supplier: 'PELLWORM' },
    lines: [
      { product: 'HEAD-A', place: 'DN-BENCH', quantity: '1', marks: [{ serial: fresh('LIVE') }] }
    ]
  });

/** The page is the same one still: it was not read from the beginning. */
const mark = (page: Page) => page.evaluate(() => Object.assign(window, { isSame: true }));
const isSame = (page: Page) => page.evaluate(() => 'isSame' in window);

/** Settles once the page hears: what is booked before that is on the page already. */
async function listening(page: Page, path: string): Promise<void> {
  const line = page.waitForResponse((response) => response.url().endsWith('/news'));
  await page.goto(path);
  await alive(page);
  await line;
}

test('Today shows what somebody else books, and leaves what is typed alone', async ({
  page,
  request
}) => {
  await signIn(page, 'wilf');
  await listening(page, '/');
  await mark(page);
  const scan = page.getByRole('combobox').first();
  await scan.fill('half a num');
  const document = fresh('LIVE');
  const begun = Date.now();
  await receive(request, document);
  await expect(page.getByText(document)).toBeVisible();
  console.log(`on another screen ${Date.now() - begun} ms after the booking was sent`);
  await expect(scan).toHaveValue('half a num');
  await expect(scan).toBeFocused();
  expect(await isSame(page)).toBe(true);
});

test('nothing moves under a hand: it is told that there is more, and shows it when asked', async ({
  page,
  request
}) => {
  // The page's time is told and does not run: however slow the machine, the hand never rests.
  await page.clock.install();
  await signIn(page, 'wilf');
  await listening(page, '/');
  await page.clock.pauseAt(Date.now() + 60_000);
  const document = fresh('LIVE');
  const news = page.getByRole('button', { name: 'There is news' });
  await page.mouse.move(500, 400);
  await receive(request, document);
  for (let at = 0; !(await news.isVisible()); at++) {
    expect(await page.getByText(document).count()).toBe(0);
    await page.mouse.move(500 + (at % 50), 400);
    await page.clock.runFor(300);
  }
  await news.click();
  await expect(page.getByText(document)).toBeVisible();
  await expect(news).toBeHidden();
});

test('an order entered elsewhere comes into the list beside a sheet that is half typed', async ({
  page,
  request
}) => {
  const [po, other] = [fresh('PO'), fresh('PO')];
  const order = {
    ...{ partner: 'PELLWORM', due: '2020-01-01' },
    lines: [{ product: 'HEAD-A', quantity: '3' }]
  };
  await call(request, 'PUT', `orders/purchase/${po}`, order);
  await signIn(page, 'wilf');
  await listening(page, `/receive/${po}`);
  const serial = page.getByLabel('Serial, row 1');
  await serial.fill('HALF-TY');
  await call(request, 'PUT', `orders/purchase/${other}`, order);
  await expect(page.getByRole('link', { name: other })).toBeVisible();
  await expect(serial).toHaveValue('HALF-TY');
  await expect(serial).toBeFocused();
});

test('what was booked while the line was lost shows when it is back', async ({
  page,
  request,
  context
}) => {
  await signIn(page, 'wilf');
  await listening(page, '/');
  await mark(page);
  const document = fresh('LIVE');
  await context.setOffline(true);
  await receive(request, document);
  await context.setOffline(false);
  await expect(page.getByText(document)).toBeVisible();
  expect(await isSame(page)).toBe(true);
});

test('two who pick one order see what the other took', async ({ page, request }) => {
  const [product, so] = [fresh('PICK'), fresh('SO')];
  await call(request, 'PUT', `products/${product}`, {
    ...{ name: 'picked by two', unit: 'each', decimals: 0, made: false, marking: 'serial' }
  });
  await call(request, 'POST', 'receipts', {
    ...{ document: fresh('R'), supplier: 'GANNET' },
    lines: [
      {
        ...{ product, place: 'QW-A1', quantity: '2' },
        marks: [{ serial: `${product}-1` }, { serial: `${product}-2` }]
      }
    ]
  });
  await call(request, 'PUT', `orders/sales/${so}`, {
    ...{ partner: 'PILOTS', due: '2030-01-01' },
    lines: [{ product, quantity: '2' }]
  });
  await call(request, 'PUT', `orders/sales/${so}/pick-list`, {
    lines: [
      { line: 1, serial: `${product}-1` },
      { line: 1, serial: `${product}-2` }
    ]
  });
  await signIn(page, 'priya');
  await listening(page, `/ship/${so}/pick`);
  await expect(page.getByText('0 of 2')).toBeVisible();
  await call(request, 'POST', `orders/sales/${so}/picks`, { scan: `${product}-1` });
  await expect(page.getByText('1 of 2')).toBeVisible();
});
