import { alive, call, fresh, open, purchase, signIn, takenBy } from './company.ts';
import { Hands, type Done } from './hands.ts';
import { expect, test, type APIRequestContext, type Page } from './test.ts';

// Ten everyday jobs by keyboard and scanner alone, from Today to the booking, each key and scan
// counted: no hand goes to a mouse. What is fair is said beside each, and held.

const TABLE: string[] = [];
const book = 'Control+Enter';
let page: Page;
let request: APIRequestContext;
let hands: Hands;

test.beforeEach(async ({ page: given, request: api }) => {
  [page, request] = [given, api];
  await page.clock.install();
  await signIn(page, 'wilf');
  hands = new Hands(page);
});
test.afterAll(() => console.log(['job | scans | keys | fair', ...TABLE].join('\n')));

/** Says what a job took, and that it is not more than is fair. */
function tell(job: string, { scans, keys }: Done, fair: { scans: number; keys: number }): void {
  TABLE.push(`${job} | ${scans} | ${keys} | ${fair.scans} scans, ${fair.keys} keys`);
  expect(scans, job).toBeLessThanOrEqual(fair.scans);
  expect(keys, job).toBeLessThanOrEqual(fair.keys);
}

/** What is on hand of a product of its own, kept by serials or lots. */
async function goods(marks: object[], { place = 'QW-A1', marking = 'serial' } = {}) {
  const product = fresh('J');
  const taken = takenBy(request);
  await taken('PUT', `products/${product}`, {
    ...{ name: 'goods of a job', unit: 'each', decimals: 0, made: false, marking }
  });
  await taken('POST', 'openings', {
    document: fresh('O'),
    lines: [{ product, place, quantity: String(quantityOf(marks)), marks }]
  });
  return product;
}
const quantityOf = (marks: { quantity?: string }[]): number =>
  marks.reduce((sum, { quantity }) => sum + Number(quantity ?? 1), 0);
const lotOf = async (quantity: string, expires?: string) => {
  const lot = fresh('JL');
  const product = await goods([{ lot, quantity, ...(expires ? { expires } : {}) }], {
    marking: 'lot'
  });
  return { lot, product };
};

test('twenty-four announced serials come in', async () => {
  const announced = Array.from({ length: 24 }, (_, n) => ({ serial: `${fresh('A')}-${n}` }));
  const order = await purchase(request, [{ product: 'HEAD-A', quantity: '24', announced }]);
  await hands.scan(order);
  await expect(page.getByRole('heading', { name: new RegExp(order) })).toBeVisible();
  await hands.press('Escape');
  await hands.press('f');
  await expect(page.getByLabel('Tally')).toContainText('24 of 24 marked');
  await hands.press(book);
  await expect(page.getByRole('heading', { name: `Booked in on ${order}` })).toBeVisible();
  tell('receive 24 announced serials', hands.done, { scans: 1, keys: 3 });
});

test('a first-expired order leaves', async () => {
  const soon = fresh('SOON');
  const product = await goods(
    [
      { lot: fresh('LATE'), quantity: '5', expires: '2031-01-31' },
      { lot: soon, quantity: '5', expires: '2030-01-31' }
    ],
    { marking: 'lot' }
  );
  const order = fresh('SO');
  const lines = [{ product, quantity: '4' }];
  await takenBy(request)('PUT', `orders/sales/${order}`, {
    ...{ partner: 'SKARROW', due: '2026-12-24', lines }
  });
  await hands.scan(order);
  await alive(page);
  await expect(page.getByRole('heading', { name: new RegExp(order) })).toBeVisible();
  await hands.press('Escape');
  await hands.press('f');
  await expect(page.getByLabel('Lot, row 1')).toHaveValue(soon);
  await hands.press(book);
  await expect(page.getByRole('heading', { name: `Shipped on ${order}` })).toBeVisible();
  tell('ship a first-expired order', hands.done, { scans: 1, keys: 3 });
});

test('who has a lot is found', async () => {
  const { lot, product } = await lotOf('9');
  await takenBy(request)('POST', 'shipments', {
    ...{ document: fresh('D'), customer: 'SKARROW' },
    lines: [{ product, quantity: '3', marks: [{ lot, quantity: '3' }] }]
  });
  await hands.act('where', lot);
  await expect(page.getByRole('button', { name: /Skarrow Ferries/ })).toBeVisible();
  tell('find who has a lot', hands.done, { scans: 1, keys: 7 });
});

test('a lot is held', async () => {
  const { lot } = await lotOf('9');
  await hands.act('hold', lot);
  await expect(page.getByLabel('Reason')).toBeFocused();
  await hands.type('damp');
  await hands.press(book);
  await expect(page.getByRole('button', { name: 'Release …' })).toBeVisible();
  // Held once more it says why nothing is asked.
  await new Hands(page).act('hold', lot);
  await expect(page.getByText('It is held already.')).toBeVisible();
  tell('hold a lot', hands.done, { scans: 1, keys: 11 });
});

test('a carton is moved', async () => {
  const serials = ['A', 'B'].map((letter) => `${fresh('JS')}-${letter}`);
  const product = await goods(serials.map((serial) => ({ serial })));
  const packed = await call(request, 'POST', 'packings', {
    document: fresh('P'),
    lines: serials.map((serial) => ({ product, serial }))
  });
  expect(packed.ok(), await packed.text()).toBe(true);
  const [sscc] = (await packed.json()).units;
  await hands.act('move');
  await expect(page.getByRole('heading', { name: 'Move', exact: true })).toBeVisible();
  await hands.scan(sscc);
  await hands.scan('QW-B2');
  await expect(page.getByText('They go to QW-B2.')).toBeVisible();
  await hands.press(book);
  await expect(page.getByText(/Moved/).first()).toBeVisible();
  tell('move a carton', hands.done, { scans: 2, keys: 9 });
});

test('a unit comes back', async () => {
  const serial = fresh('JR');
  const product = await goods([{ serial }]);
  await takenBy(request)('POST', 'shipments', {
    ...{ document: fresh('D'), customer: 'SKARROW' },
    lines: [{ product, quantity: '1', marks: [{ serial }] }]
  });
  await hands.act('return', serial);
  await expect(page.getByRole('main').getByText(serial).first()).toBeVisible();
  await hands.press(book);
  await expect(page.getByText(/^✓ 1 lot or serial back on/).first()).toBeVisible();
  tell('take in a return', hands.done, { scans: 1, keys: 9 });
});

test('a date is amended', async () => {
  const { lot } = await lotOf('9', '2030-01-31');
  await hands.act('amend', lot);
  await expect(page.getByRole('dialog')).toBeVisible();
  await hands.press('Tab');
  await hands.press('Tab');
  await hands.type('310330');
  for (let tab = 0; tab < 3; tab++) await hands.press('Tab');
  await hands.type('label');
  await hands.press(book);
  await expect(page.getByText('31 Mar 2030').first()).toBeVisible();
  tell('amend a date', hands.done, { scans: 1, keys: 25 });
});

test('a rack is counted', async () => {
  const place = fresh('R');
  await takenBy(request)('PUT', `places/${place}`, { name: 'rack', site: 'QW' });
  const serials = [1, 2, 3].map((n) => `${fresh('JC')}-${n}`);
  await goods(
    serials.map((serial) => ({ serial })),
    { place }
  );
  await hands.act('count', place);
  await expect(page.getByRole('button', { name: `Count ${place}`, exact: true })).toBeEnabled();
  await hands.press(book);
  await expect(page.getByLabel(/scan or type a number/)).toBeVisible();
  for (const serial of serials) {
    await hands.scan(serial);
    await expect(page.getByText(`${serial} is there.`)).toBeVisible();
  }
  await hands.press(book);
  await expect(page.getByText('All places are counted.')).toBeVisible();
  tell('count a rack of three', hands.done, { scans: 4, keys: 9 });
});

test('a label is printed again', async () => {
  const { lot } = await lotOf('9');
  await hands.act('print', lot);
  await expect(page.getByRole('button', { name: 'Print 1', exact: true })).toBeEnabled();
  await hands.press(book);
  await expect(page.getByText(/1 label sent to the label printer/)).toBeVisible();
  tell('print a label again', hands.done, { scans: 1, keys: 8 });
});

test('four jackets are built', async () => {
  const cylinders = [1, 2, 3, 4].map((n) => `${fresh('JY')}-${n}`);
  const part = await goods(cylinders.map((serial) => ({ serial })));
  const { product: fabric } = await lotOf('40');
  const jacket = fresh('JK');
  const taken = takenBy(request);
  await taken('PUT', `products/${jacket}`, {
    ...{ name: 'jacket of a job', unit: 'each', decimals: 0, made: true, marking: 'serial' },
    components: [
      { product: fabric, quantity: '2' },
      { product: part, quantity: '1' }
    ]
  });
  const order = fresh('WO');
  const lines = [{ product: jacket, quantity: '4' }];
  await taken('PUT', `orders/work/${order}`, { due: '2026-12-24', lines });
  await open(page, '/');
  await hands.scan(order);
  await expect(page.getByRole('heading', { name: new RegExp(order) })).toBeVisible();
  for (const [index, cylinder] of cylinders.entries()) {
    await hands.scan(`${jacket}-${index}`);
    await hands.scan(cylinder);
  }
  await hands.press(book);
  await expect(page.getByRole('heading', { name: `Built on ${order}` })).toBeVisible();
  tell('build 4 jackets', hands.done, { scans: 9, keys: 1 });
});
