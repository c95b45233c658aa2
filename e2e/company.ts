import { expect, type APIRequestContext, type Locator, type Page } from '@playwright/test';

export const PASSWORD = 'harbour-lantern';
export const TOKEN = 'token-of-the-browser-tests';

/** Signs a demo person in. */
export async function signIn(page: Page, login: string): Promise<void> {
  await page.goto('/sign-in');
  await page.getByLabel('Name').fill(login);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: /^Today/ })).toBeVisible();
  await alive(page);
}

/** Signs out, from the frame or from a part of the page; nothing is left on the device. */
export async function signOut(page: Page, within: Page | Locator = page): Promise<void> {
  await within.getByRole('button', { name: 'Sign out', exact: true }).click();
  await expect(page).toHaveURL(/\/sign-in/);
}

/** Waits until the page's script has taken over: keys pressed before that go nowhere. */
export const alive = (page: Page): Promise<unknown> => page.locator('html[data-live]').waitFor();

/** Opens a screen, alive: what is typed on it is taken. */
export async function open(page: Page, path: string): Promise<void> {
  await page.goto(path);
  await alive(page);
}

/** Waits until nothing on the page moves any more and its letters have come. */
export const still = (page: Page): Promise<unknown> =>
  page.evaluate(async () => {
    await document.fonts.ready;
    const frame = () => new Promise((next) => requestAnimationFrame(next));
    const moving = () => document.getAnimations().some(({ playState }) => playState === 'running');
    do await frame();
    while (moving());
  });

let count = 0;
/** Calls the API with the token; a new idempotency key each time unless one is given. */
export const call = (
  request: APIRequestContext,
  method: string,
  path: string,
  data?: object,
  headers: Record<string, string> = {}
) =>
  request.fetch(`/api/v1/${path}`, {
    method,
    ...(data === undefined ? {} : { data }),
    headers: {
      authorization: `Bearer ${TOKEN}`,
      'idempotency-key': `e2e ${Date.now()} ${++count}`,
      ...headers
    }
  });

/** Calls the API with what must be taken, and fails with what it says where it is not. */
export const takenBy =
  (request: APIRequestContext) =>
  async (method: string, path: string, data: object): Promise<void> => {
    const answer = await call(request, method, path, data);
    expect(answer.ok(), await answer.text()).toBe(true);
  };

/** A code no other test uses. */
export const fresh = (prefix: string): string =>
  `${prefix}-${Date.now().toString(36).toUpperCase()}${(++count).toString(36).toUpperCase()}`;

/** Pastes text as from a spreadsheet into the focused field. */
export async function paste(page: Page, text: string): Promise<void> {
  await page.evaluate((value) => {
    const data = new DataTransfer();
    data.setData('text/plain', value);
    document.activeElement!.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true })
    );
  }, text);
}

/** Enters a purchase order of its own, and answers its number. */
export async function purchase(request: APIRequestContext, lines: object[]): Promise<string> {
  const number = fresh('PO');
  const order = { partner: 'GANNET', due: '2026-11-23', lines };
  const put = await call(request, 'PUT', `orders/purchase/${number}`, order);
  expect(put.status()).toBe(201);
  return number;
}

/** Sets up a product: bought, in whole pieces, if nothing else is said. */
export async function product(
  request: APIRequestContext,
  code: string,
  more: object
): Promise<void> {
  const put = await call(request, 'PUT', `products/${code}`, {
    ...{ name: code.toLowerCase(), unit: 'each', decimals: 0, made: false },
    ...more
  });
  expect(put.status(), await put.text()).toBe(201);
}

/** Receives so many serials of a product, and answers them: they lie on rack A1. */
export async function received(
  request: APIRequestContext,
  code: string,
  count: number
): Promise<string[]> {
  const serials = Array.from({ length: count }, (_, at) => `${code}-${at + 1}`);
  const line = { product: code, place: 'QW-A1', quantity: String(count) };
  await takenBy(request)('POST', 'receipts', {
    ...{ document: fresh('R'), supplier: 'GANNET' },
    lines: [{ ...line, marks: serials.map((serial) => ({ serial })) }]
  });
  return serials;
}

/** The numbers there are of a product, in order. */
export async function numbersOf(request: APIRequestContext, code: string): Promise<string[]> {
  const answer = await call(request, 'GET', `marks?product=${code}&limit=20`);
  const { marks } = (await answer.json()) as { marks: { number: string }[] };
  return marks.map(({ number }) => number).sort();
}
