import { fresh, numbersOf, open, product, purchase, received, signIn, takenBy } from './company.ts';
import { expect, test, type APIRequestContext, type Page } from './test.ts';

// What a dock does to a screen: a scanner with Caps Lock or a stutter, a phone turned in mid-scan, a
// line that comes and goes, a clock that is off. (Tab instead of Enter: `scan-anywhere.spec`; two
// people on one sheet: `live.spec`, two tabs: `losing-nothing.spec`.)

async function serialProduct(request: APIRequestContext): Promise<string> {
  const code = fresh('BAD');
  await product(request, code, { name: 'badly scanned', marking: 'serial' });
  return code;
}

const scan = async (page: Page, text: string): Promise<void> => {
  const field = page.getByLabel(/scan or paste numbers/);
  await field.fill(text);
  await field.press('Enter');
};

test('a scanner with Caps Lock on, and one that sends twice, names the same thing once', async ({
  page,
  request
}) => {
  const code = await serialProduct(request);
  const [serial] = (await received(request, code, 1)) as [string];
  await signIn(page, 'wilf');
  await open(page, '/move');
  await scan(page, serial.toLowerCase());
  await scan(page, serial);
  await scan(page, 'qw-b2');
  await expect(page.getByText('They go to QW-B2.')).toBeVisible();
  await expect(page.getByRole('row', { name: new RegExp(serial) })).toHaveCount(1);
  await page.getByRole('button', { name: 'Move 1', exact: true }).click();
  await expect(page.getByText(/1 line moved/)).toBeVisible();
});

test('a phone that is turned in mid-scan loses neither the field nor what is in it', async ({
  page,
  request
}) => {
  const code = await serialProduct(request);
  const [serial] = (await received(request, code, 1)) as [string];
  const so = fresh('SO');
  const lines = [{ product: code, quantity: '1' }];
  const api = takenBy(request);
  await api('PUT', `orders/sales/${so}`, { partner: 'PILOTS', due: '2027-12-31', lines });
  const stops = [{ line: 1, serial, quantity: '1' }];
  await api('PUT', `orders/sales/${so}/pick-list`, { lines: stops });
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, 'wilf');
  await open(page, `/ship/${so}/pick`);
  await expect(page.getByLabel('Scan a lot or serial')).toBeFocused();
  await page.keyboard.type(serial.slice(0, 5));
  await page.setViewportSize({ width: 844, height: 390 });
  await page.keyboard.type(serial.slice(5));
  await expect(page.getByLabel('Scan a lot or serial')).toHaveValue(serial);
  await page.keyboard.press('Enter');
  await expect(page.getByText('1 of 1')).toBeVisible();
});

test('on a line that comes and goes every two seconds a receipt is booked once', async ({
  page,
  request
}) => {
  const code = await serialProduct(request);
  const po = await purchase(request, [{ product: code, quantity: '3' }]);
  const serials = [1, 2, 3].map((one) => `${code}-${one}`);
  await signIn(page, 'ines');
  await open(page, `/receive/${po}`);
  await expect(page.getByText('works without a line')).toBeVisible();
  let isThere = true;
  const goes = setInterval(() => {
    isThere = !isThere;
    void page.context().setOffline(!isThere);
  }, 2_000);
  try {
    for (const [at, serial] of serials.entries())
      await page.getByLabel(`Serial, row ${at + 1}`).fill(serial);
    await page.getByRole('button', { name: 'Book in 3' }).click();
    const later = page.getByRole('button', { name: 'Book when the line is back' });
    await expect(async () => {
      if (await later.isVisible()) await later.click();
      expect(await numbersOf(request, code)).toEqual(serials);
    }).toPass();
  } finally {
    clearInterval(goes);
  }
  await page.context().setOffline(false);
  await expect(page.getByRole('button', { name: /waiting|not booked/ })).toBeHidden();
  await open(page, `/receive/${po}`);
  await expect(page.getByRole('link', { name: new RegExp(`${po}.*complete`) })).toBeVisible();
});

test('on a device whose clock is two hours off the ledger has its own time', async ({
  page,
  request
}) => {
  const code = await serialProduct(request);
  const po = await purchase(request, [{ product: code, quantity: '1' }]);
  await page.clock.setSystemTime(Date.now() + 2 * 3_600_000);
  await signIn(page, 'ines');
  await open(page, `/receive/${po}`);
  await page.getByLabel('Serial, row 1').fill(`${code}-1`);
  const answered = page.waitForResponse('**/api/v1/receipts');
  await page.getByRole('button', { name: 'Book in 1' }).click();
  const { event } = (await (await answered).json()) as { event: { bookedAt: string } };
  await expect(page.getByRole('dialog', { name: 'Locked' })).toBeHidden();
  const off = Math.abs(Date.parse(event.bookedAt) - Date.now());
  expect(off).toBeLessThan(600_000);
});
