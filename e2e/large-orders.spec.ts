import { axe } from './axe.ts';
import { fresh, open, signIn, signOut, takenBy } from './company.ts';
import { expect, test, type APIRequestContext, type Page } from './test.ts';

// An order of two hundred lines: each is found, what is still open is next, and the line in hand
// never falls out of sight.

const LINES = 200;
const code = fresh('L');
const product = (n: number): string => `${code}-${String(n).padStart(3, '0')}`;
const NUMBERED = product(117);

async function enterProducts(request: APIRequestContext): Promise<void> {
  const taken = takenBy(request);
  for (let n = 1; n <= LINES; n++)
    await taken('PUT', `products/${product(n)}`, {
      ...{ name: `fitting no. ${n}`, unit: 'each', decimals: 0, made: false },
      marking: product(n) === NUMBERED ? 'lot' : 'none'
    });
}

async function enterOrder(request: APIRequestContext, kind: string, partner: string) {
  const number = fresh(kind === 'sales' ? 'SO' : 'PO');
  const lines = Array.from({ length: LINES }, (_, n) => ({
    product: product(n + 1),
    quantity: '4'
  }));
  const order = { partner, due: '2026-12-24', lines };
  await takenBy(request)('PUT', `orders/${kind}/${number}`, order);
  return number;
}

const lineTab = (page: Page, name: string) => page.getByRole('tab', { name: new RegExp(name) });

test('an order of two hundred lines is received and shipped', async ({ page, request }) => {
  await enterProducts(request);

  await test.step('all as ordered but what needs a number, which is put in hand', async () => {
    const number = await enterOrder(request, 'purchase', 'GANNET');
    await signIn(page, 'ines');
    await open(page, `/receive/${number}`);
    await expect(page.getByText('200 lines, 200 open')).toBeVisible();
    await expect(page.getByLabel('Quantity, each, row 1')).toBeInViewport();

    await page.getByLabel('Find a line of the order').fill('no. 150');
    await expect(page.getByText('1 of 200 lines, 200 open')).toBeVisible();
    await page.keyboard.press('Enter');
    await expect(lineTab(page, product(150))).toHaveAttribute('aria-selected', 'true');
    await page.getByLabel('Quantity, each, row 1').fill('3');
    await page.getByLabel('Find a line of the order').fill('');

    await page.getByRole('button', { name: 'All as ordered' }).click();
    const said = page.getByText(
      `198 of 200 lines stand as ordered. Still open: ${NUMBERED}, ${product(150)}.`
    );
    await expect(said).toBeVisible();
    await page.getByRole('button', { name: 'Take back' }).click();
    await expect(page.getByLabel('Tally')).toContainText('3');
    expect(await axe(page)).toEqual([]);

    // The same by its key, with no hand on the mouse; the line with a number to give is next.
    await page.keyboard.press('Escape');
    await page.keyboard.press('f');
    await expect(said).toBeVisible();
    await expect(lineTab(page, NUMBERED)).toHaveAttribute('aria-selected', 'true');
    await expect(lineTab(page, NUMBERED)).toBeInViewport();
    await page.getByLabel('Lot, row 1').fill(`${code}-LOT`);
    await page.getByLabel('only open').check();
    await expect(page.getByText('1 of 200 lines, 1 open')).toBeVisible();
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('heading', { name: `Booked in on ${number}` })).toBeVisible();
  });

  await test.step('each line to ship says what is there for it, and what the customer wishes', async () => {
    const customer = fresh('C');
    const taken = takenBy(request);
    await taken('PUT', `partners/${customer}`, { name: 'Many Lines', customer: true });
    await taken('PUT', `partners/${customer}/wishes`, {
      wishes: [{ product: NUMBERED, leastDays: null, leastShare: null, oneLot: true }]
    });
    const number = await enterOrder(request, 'sales', customer);
    await signOut(page);
    await signIn(page, 'priya');
    await open(page, `/ship/${number}`);
    await expect(lineTab(page, NUMBERED)).toContainText('One lot only.');
    await expect(lineTab(page, product(150))).toContainText('1 each short');
    await expect(lineTab(page, product(1))).toContainText('4 each there');

    await page.getByRole('button', { name: 'All as ordered' }).click();
    await page.getByRole('button', { name: 'Ship 800' }).click();
    // What stops it is in sight, on the line it is of.
    await expect(lineTab(page, product(150))).toHaveAttribute('aria-selected', 'true');
    await expect(lineTab(page, product(150))).toBeInViewport();
  });
});
