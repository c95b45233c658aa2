import { axe } from './axe.ts';
import type { APIRequestContext, BrowserContext } from '@playwright/test';
import { expect, test, type Page } from './test.ts';
import { alive, call, open, signIn, still } from './company.ts';

async function idOf(request: Parameters<typeof call>[0], query: string): Promise<number> {
  return (await (await call(request, 'GET', `marks?${query}`)).json()).marks[0].id;
}

async function screens(request: Parameters<typeof call>[0]): Promise<string[]> {
  const lot = await idOf(request, 'product=BOB-S&lot=BOB-2511'),
    jacket = await idOf(request, 'product=TN150&serial=TN-004342');
  const unit = '095206010000000021';
  await openStore(request);
  return [
    '/',
    '/receive',
    '/receive/PO-2144',
    '/build/WO-858',
    '/build/WO-859',
    '/ship/SO-3322',
    '/on-hand',
    '/on-hand?q=CYL',
    `/marks/${lot}`,
    `/marks/${jacket}`,
    '/events/1',
    ...['/trace', '/proof', '/help'],
    '/trace/records/shipped',
    '/trace/records/gains?from=2020-01-01',
    '/trace/records/overruled?from=2020-01-01',
    `/trace/${lot}?direction=downstream`,
    `/trace/${jacket}?direction=upstream&view=outline`,
    `/trace/${lot}?direction=downstream&view=table`,
    '/account',
    '/setup/products',
    '/setup/products/TN150',
    '/setup/products/new',
    '/setup/partners',
    '/setup/places',
    '/setup/places/QW-A1',
    '/setup/numbering',
    '/setup/plans',
    '/setup/plans?plan=COLD',
    '/setup/files?kind=products',
    '/setup/files?kind=openings',
    ...['/opening', '/count', '/transfer', '/transfer/order'],
    '/service',
    '/service?as=list',
    '/service/new',
    '/service/SJ-0002',
    '/service/claims',
    '/service/figures',
    '/setup/service',
    '/transfer/TR-SEEN',
    '/count/C-SEEN',
    '/move',
    '/on-hand/rows?sort=expires',
    '/on-hand/rows?only=held&day=2026-06-01',
    '/history?product=TN150',
    '/history?place=QW-A1',
    '/partners/NORTHQUAY',
    '/partners/PELLWORM',
    '/value',
    '/value?by=lot&product=HEAD-A',
    '/value/changes?from=2020-01-01',
    '/value/revalue?event=111',
    '/orders/new?kind=sales',
    '/orders/new?kind=purchase',
    '/orders/import?kind=purchase',
    '/receive/PO-2142',
    '/put-away',
    '/identify?product=HEAD-A',
    `/labels?mark=${jacket}`,
    '/labels/1',
    '/events/120',
    `/marks/${jacket}/as-built`,
    `/teardown/${jacket}`,
    `/fit/${jacket}`,
    `/marks/${jacket}/as-built?as=is`,
    `/repack?marks=${lot}`,
    '/setup/products/TN275/bill?quantity=20',
    '/setup/routes',
    '/build/floor',
    '/build/floor/stations/J-LEAK',
    '/build/WO-860',
    '/ship/SO-3321/choose',
    '/ship/SO-3325/pick',
    '/ship/SO-3325/pack',
    '/ship/backorders',
    `/units/${unit}`,
    '/returns',
    '/setup/company',
    '/recall',
    '/recall/new',
    '/recall/RC-0001',
    '/trace/common',
    '/loose-ends',
    '/quality',
    '/quality/products/TN150'
  ];
}

/** A count and a transfer to look at; every group asks for them, and they are made once. */
async function openStore(request: Parameters<typeof call>[0]): Promise<void> {
  await call(request, 'POST', 'counts', { document: 'C-SEEN', places: ['QW-COOL', 'DN-BENCH'] });
  const { rows } = await (await call(request, 'GET', 'stock?place=DN-DOCK')).json();
  const row = rows[0];
  if (!row) return;
  const { product, kind, number } = row.mark;
  await call(request, 'POST', 'transfers', {
    document: 'TR-SEEN',
    from: 'DN',
    to: 'QW',
    lines: [{ product, place: 'DN-DOCK', marks: [{ [kind]: number, quantity: row.quantity }] }]
  });
}

// Looked at in groups, so that both workers have some; the trace of a failure keeps no pictures of
// pages, which would take longer than looking at them.
test.describe.configure({ mode: 'parallel' });
test.use({ trace: { mode: 'retain-on-failure', snapshots: false, screenshots: false } });
const GROUPS = [0, 1, 2, 3];
for (const group of GROUPS)
  test(`axe finds nothing on any screen, none scrolls sideways at 1024 or on a phone, and no request leaves the machine (part ${group + 1} of ${GROUPS.length})`, ({
    page,
    context,
    request
  }) => lookAtScreens(page, context, request, group));

/** A small desk and a phone: of neither a screen is wider, whatever wide table stands on it. */
const NARROWER = [
  [1024, 768],
  [390, 844]
] as const;

/** How far a screen scrolls sideways. */
const sticksOut = (page: Page): Promise<number> =>
  page.evaluate(() => {
    const main = document.querySelector('main')!;
    return Math.max(
      document.documentElement.scrollWidth - window.innerWidth,
      main.scrollWidth - main.clientWidth
    );
  });

async function lookAtScreens(
  page: Page,
  context: BrowserContext,
  request: APIRequestContext,
  group: number
): Promise<void> {
  const outside: string[] = [],
    broken: string[] = [];
  context.on('request', (asked) => {
    if (!/^(http:\/\/localhost:|data:|blob:)/.test(asked.url())) outside.push(asked.url());
  });
  context.on('weberror', (error) => broken.push(error.error().message));
  context.on('console', (message) => {
    if (message.type() === 'error') broken.push(message.text());
  });
  await page.goto('/sign-in');
  expect(await axe(page)).toEqual([]);
  await signIn(page, 'wilf');
  const mine = (await screens(request)).filter((_, at) => at % GROUPS.length === group);
  for (const screen of mine) await look(page, screen);
  expect(outside).toEqual([]);
  expect(broken).toEqual([]);

  async function look(page: Page, screen: string): Promise<void> {
    await page.goto(screen);
    await alive(page);
    await expect(page.getByRole('main')).toBeVisible();
    await still(page);
    expect(await axe(page), screen).toEqual([]);
    for (const [width, height] of NARROWER) {
      await page.setViewportSize({ width, height });
      // A chart follows the width a frame or two later.
      await expect
        .poll(() => sticksOut(page), { message: `${screen} at ${width}` })
        .toBeLessThanOrEqual(0);
    }
    await page.setViewportSize({ width: 1280, height: 800 });
  }
}

test('people and the dialogs are as clean', async ({ page }) => {
  await signIn(page, 'admin');
  await open(page, '/setup/security');
  await expect(page.getByRole('cell', { name: 'signed in' }).first()).toBeVisible();
  expect(await axe(page)).toEqual([]);
  for (const [screen, asked] of [
    ['/setup/hooks', 'New hook'],
    ['/setup/people', 'New person']
  ] as const) {
    await open(page, screen);
    expect(await axe(page)).toEqual([]);
    await page.getByRole('button', { name: asked }).click();
    await expect(page.getByRole('dialog', { name: asked })).toBeVisible();
    await still(page);
    expect(await axe(page)).toEqual([]);
  }
  // A name that somebody has already is refused, and their password stays what it was.
  const dialog = page.getByRole('dialog', { name: 'New person' });
  await dialog.getByLabel('Signs in as').fill('wilf');
  await dialog.getByLabel('Name', { exact: true }).fill('Another Wilf');
  await dialog.getByLabel(/Password/).fill('another-password');
  await dialog.getByRole('checkbox').first().check({ force: true });
  await dialog.getByRole('button', { name: 'Keep person' }).click();
  await expect(dialog.getByText(/There is a person wilf already/)).toBeVisible();
  await page.keyboard.press('Escape');
  await open(page, '/setup/people/ines');
  for (const title of ['What they may', 'Password'])
    await page.getByRole('button', { name: `Change: ${title}` }).click();
  expect(await axe(page)).toEqual([]);
  await page.getByRole('button', { name: /What this screen is for/ }).click();
  await expect(page.getByRole('dialog', { name: 'This screen' })).toBeVisible();
  await still(page);
  expect(await axe(page)).toEqual([]);
});

test('the dock screens work on a phone', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, 'wilf');
  for (const screen of [
    '/',
    '/account',
    '/receive/PO-2142',
    '/receive/PO-2144',
    '/put-away',
    '/move',
    '/count',
    '/transfer',
    '/ship/SO-3322',
    '/ship/SO-3325/pick',
    '/build/WO-859'
  ]) {
    await page.goto(screen);
    await alive(page);
    await still(page);
    expect(
      await page.evaluate(() => document.documentElement.scrollWidth),
      screen
    ).toBeLessThanOrEqual(390);
    expect(await axe(page), screen).toEqual([]);
  }
  await expect(page.getByRole('button', { name: /^Book/ })).toBeInViewport();
});

test('the keyboard goes all the way', async ({ page }) => {
  await signIn(page, 'wilf');
  await page.keyboard.press('g');
  await page.keyboard.press('s');
  await expect(page).toHaveURL(/\/ship\//);
  await page.locator('body').click({ position: { x: 600, y: 600 } });
  const orders = page.locator('[data-list] a');
  await page.keyboard.press('j');
  await expect(page.locator('[data-list] a:focus')).toHaveCount(1);
  const first = await orders.evaluateAll((all) => all.indexOf(document.activeElement as never));
  await page.keyboard.press('j');
  await expect(orders.nth(first + 1)).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('SO-');
  await expect(page.getByLabel(/row 1$/).first()).toBeFocused();
  await page.keyboard.press('Escape');
  await page.keyboard.press('/');
  await expect(page.getByRole('combobox', { name: /Scan or type/ })).toBeFocused();
  await page.keyboard.type('pellworm');
  await expect(page.getByRole('option', { name: /Pellworm Devices/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'This screen' })).toBeVisible();
});

test('a scan finds marks by our number, theirs and a GS1 symbol, orders, papers and partners', async ({
  page,
  request
}) => {
  await call(request, 'PUT', 'products/TUBE', {
    name: 'oral tube',
    unit: 'each',
    decimals: 0,
    made: false,
    marking: 'lot',
    netWeightKg: '0.03',
    gtin: '09506000134352'
  });
  await signIn(page, 'noor');
  const scan = page.getByRole('combobox', { name: /Scan or type/ });
  for (const [text, url] of [
    ['tn-004342', /\/marks\//],
    ['SM/2511', /\/marks\//],
    [']d2010950600013435210T-79', /\/marks\//],
    ['PO-2144', /\/receive\/PO-2144/],
    ['H-31', /\/events\//]
  ] as const) {
    await page.goto('/');
    await alive(page);
    await scan.fill(text);
    await scan.press('Enter');
    await expect(page, text).toHaveURL(url);
  }
  await page.goto('/');
  await alive(page);
  await scan.fill('nothing like this');
  await scan.press('Enter');
  await expect(page.getByText('Nothing is known as “nothing like this”')).toBeVisible();
});

test('a role sees what it may not do as a sentence, not a failure', async ({ page }) => {
  await signIn(page, 'noor');
  await page.goto('/receive/PO-2144');
  await alive(page);
  await expect(page.getByText('Your role reads this order; it does not book it.')).toBeVisible();
  const reply = await page.goto('/setup/people');
  expect(reply!.status()).toBe(403);
  await expect(page.getByText('this needs one of: administrator')).toBeVisible();
});
