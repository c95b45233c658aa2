import { axe } from './axe.ts';
import { alive, call, fresh, open, product, received, signIn, takenBy } from './company.ts';
import { setLine } from './line.ts';
import { expect, test, type APIRequestContext, type Page } from './test.ts';

// What goes on at the dock without a line beside receiving (`dock.spec`): shipping, moving, picking,
// packing. What is left on the device is booked when the line is back, once.

interface Ordered {
  product: string;
  so: string;
  serials: string[];
}

/** Serials on the rack, and an order of so many of them. */
async function ordered(request: APIRequestContext, count: number): Promise<Ordered> {
  const [code, so] = [fresh('OFF'), fresh('SO')] as const;
  await product(request, code, {
    ...{ name: 'sent from the dock', marking: 'serial', netWeightKg: '1.5' }
  });
  const serials = await received(request, code, count);
  const lines = [{ product: code, quantity: String(count) }];
  const order = { partner: 'PILOTS', due: '2026-12-31', lines };
  await takenBy(request)('PUT', `orders/sales/${so}`, order);
  return { product: code, so, serials };
}

/** Where a serial lies; null where it is not on hand. */
async function placeOf(request: APIRequestContext, serial: string): Promise<string | null> {
  const answer = await call(request, 'POST', 'lying', { numbers: [serial] });
  const { rows } = (await answer.json()) as { rows: { from: string }[] };
  return rows[0]?.from ?? null;
}

/** A screen of the dock, once this device keeps all it needs. */
async function openKept(page: Page, path: string): Promise<void> {
  await open(page, path);
  await expect(page.getByText('works without a line')).toBeVisible();
}

const nothingWaits = (page: Page): Promise<void> =>
  expect(page.getByRole('button', { name: /waiting|No line|not booked/ })).toBeHidden();

test('an order is shipped from the dock without a line, judged by what the device knows', async ({
  page,
  request
}) => {
  const { so, serials, product } = await ordered(request, 2);
  const [first] = serials as [string];
  const reject = { document: fresh('Q'), kind: 'reject', reason: 'torn' };
  await takenBy(request)('POST', 'quality-decisions', {
    ...reject,
    marks: [{ product, serial: serials[1] }]
  });
  await signIn(page, 'wilf');
  await openKept(page, `/ship/${so}`);
  await setLine(page, false);
  await page.getByLabel('Serial, row 1').fill(serials[1]!);
  await expect(page.getByText(/is rejected/).first()).toBeVisible();
  await page.getByLabel('Serial, row 1').fill(first);
  await expect(page.getByText(/is rejected/)).toBeHidden();
  await page.getByRole('button', { name: 'Ship 1' }).click();
  await page.getByRole('button', { name: 'Book when the line is back' }).click();
  await expect(page.getByText(/Left on this device at/)).toBeVisible();
  expect(await placeOf(request, first)).toBe('QW-A1');
  await setLine(page, true);
  await nothingWaits(page);
  expect(await placeOf(request, first)).toBeNull();
});

test('goods are moved without a line, one move after the other, and lie there when it is back', async ({
  page,
  request
}) => {
  const { serials } = await ordered(request, 2);
  const [one, two] = serials as [string, string];
  await signIn(page, 'wilf');
  await openKept(page, '/move');
  await setLine(page, false);
  const scan = async (text: string) => {
    await page.getByLabel(/scan or paste numbers/).fill(text);
    await page.getByLabel(/scan or paste numbers/).press('Enter');
  };
  const leave = async () => {
    await page.getByRole('button', { name: 'Move 1', exact: true }).click();
    await page.getByRole('button', { name: 'Book when the line is back' }).click();
  };
  await scan(one);
  await scan('QW-B2');
  await leave();
  await expect(page.getByText(/1 line left on this device/)).toBeVisible();
  // From where it lies by now, though no server knows of that; and a number not known here.
  await scan(one);
  await expect(page.getByRole('row', { name: new RegExp(one) })).toContainText(
    'Quay Works, rack B2'
  );
  await scan('NOT-KNOWN-HERE');
  await expect(page.getByRole('region', { name: /Looked for/ })).toContainText('NOT-KNOWN-HERE');
  expect(await axe(page)).toEqual([]);
  await scan('QW-C1');
  await leave();
  // The page is there after a reload, with what waits.
  await page.reload();
  await alive(page);
  await expect(page.getByRole('button', { name: /No line · 2 waiting/ })).toBeVisible();
  expect(await placeOf(request, one)).toBe('QW-A1');
  await setLine(page, true);
  await nothingWaits(page);
  expect(await placeOf(request, one)).toBe('QW-C1');
  expect(await placeOf(request, two)).toBe('QW-A1');
  await expect(page.getByText(/NOT-KNOWN-HERE lies nowhere/)).toBeVisible();
});

test('a move that does not hold any more can be taken up again', async ({ page, request }) => {
  const { serials, product } = await ordered(request, 1);
  const [one] = serials as [string];
  await signIn(page, 'wilf');
  await openKept(page, '/move');
  await setLine(page, false);
  for (const text of [one, 'QW-B2']) {
    await page.getByLabel(/scan or paste numbers/).fill(text);
    await page.getByLabel(/scan or paste numbers/).press('Enter');
  }
  await page.getByRole('button', { name: 'Move 1', exact: true }).click();
  await page.getByRole('button', { name: 'Book when the line is back' }).click();
  await expect(page.getByText(/1 line left on this device/)).toBeVisible();
  await takenBy(request)('POST', 'moves', {
    ...{ document: fresh('M'), kind: 'move' },
    lines: [{ product, serial: one, from: 'QW-A1', to: 'QW-C1' }]
  });
  await setLine(page, true);
  const refused = page.getByRole('region', { name: 'Not booked' });
  await expect(refused).toContainText('QW-C1');
  await refused.getByRole('button', { name: 'Put it on the sheet again' }).click();
  await expect(refused).toBeHidden();
  await expect(page.getByRole('row', { name: new RegExp(one) })).toBeVisible();
  await expect(page.getByRole('button', { name: /1 not booked/ })).toBeHidden();
});

test('an order is picked and packed without a line, and shipped when it is back', async ({
  page,
  request
}) => {
  const { so, serials } = await ordered(request, 3);
  const [one, two, three] = serials as [string, string, string];
  const lines = serials.map((serial) => ({ line: 1, serial, quantity: '1' }));
  await takenBy(request)('PUT', `orders/sales/${so}/pick-list`, { lines });
  await signIn(page, 'wilf');
  await openKept(page, `/ship/${so}/pick`);
  const scan = async (text: string) => {
    const field = page.getByLabel(/^Scan a lot/);
    await field.fill(text);
    await field.press('Enter');
  };
  // The first of a carton needs its number, and with it the line.
  await scan(one);
  await expect(page.getByText('1 of 3')).toBeVisible();
  await openKept(page, `/ship/${so}/pack`);
  await scan(one);
  await expect(page.getByText('1 unit with 1 packed')).toBeVisible();
  await openKept(page, `/ship/${so}/pick`);

  await setLine(page, false);
  await scan('TN-004342');
  await expect(page.getByRole('alert')).toContainText('not known on this device');
  await scan(two);
  await expect(page.getByText('2 of 3')).toBeVisible();
  await expect(page.getByText('1 scan is kept on this device')).toBeVisible();
  await scan(two);
  await expect(page.getByText(`${two}`).first()).toBeVisible();
  await scan(three);
  await expect(page.getByText('3 of 3')).toBeVisible();
  expect(await axe(page)).toEqual([]);
  await page.reload();
  await alive(page);
  await expect(page.getByText('3 of 3')).toBeVisible();

  await page.getByRole('link', { name: /^Pack/ }).click();
  await expect(page.getByRole('heading', { name: `Pack ${so}` })).toBeVisible();
  await scan(two);
  await expect(page.getByRole('alert')).toContainText('no carton gets its number');
  await page.getByRole('button', { name: 'Take in hand' }).click();
  await scan(two);
  await expect(page.getByText('1 act of packing is kept on this device')).toBeVisible();
  await scan(three);
  await expect(page.getByText('1 unit with 3 packed')).toBeVisible();
  expect(await axe(page)).toEqual([]);
  await page.getByRole('button', { name: 'Ship 1 carton' }).click();
  await page.getByRole('button', { name: 'Ship when the line is back' }).click();
  await expect(page.getByText('The shipment waits on this device')).toBeVisible();
  expect(await placeOf(request, one)).toBe('QW-A1');

  await setLine(page, true);
  await nothingWaits(page);
  for (const serial of serials) expect(await placeOf(request, serial)).toBeNull();
});
