import { expect, test } from './test.ts';
import { call, fresh, open, signIn } from './company.ts';

test('goods go to another site: under way they are nowhere, arrive in parts, and the rest is written off', async ({
  page
}) => {
  const [place, far, first, second] = ['TA', 'TB', 'T1', 'T2'].map((one) => fresh(one));
  const site = fresh('SITE');
  await signIn(page, 'wilf');
  await call(page.request, 'PUT', `places/${place}`, { name: 'shelf', site: 'QW' });
  await call(page.request, 'PUT', `places/${far}`, { name: 'gate', site });
  const marks = [first, second].map((serial) => ({ serial }));
  const lines = [{ product: 'INF', place, quantity: '2', marks }];
  const opened = await call(page.request, 'POST', 'openings', { document: fresh('O'), lines });
  expect(opened.ok(), await opened.text()).toBe(true);

  await open(page, '/transfer');
  const document = fresh('TR');
  await page.getByRole('combobox', { name: 'from', exact: true }).selectOption('QW');
  await page.getByRole('combobox', { name: 'to', exact: true }).selectOption(site);
  await page.getByLabel('document', { exact: true }).fill(document);
  const scan = page.getByLabel(/scan or paste what leaves/);
  for (const serial of [first, second]) {
    await scan.fill(serial!);
    await scan.press('Enter');
    await expect(page.getByLabel(`Send ${serial}`)).toBeChecked();
  }
  await page.getByRole('button', { name: 'Send 2' }).click();
  await expect(page.getByText('2 lots and serials under way')).toBeVisible();
  const stock = await (await call(page.request, 'GET', `stock?place=${place}`)).json();
  expect(stock.rows).toEqual([]);

  const note = await page.request.get(`/api/v1/transfers/${document}/note`);
  expect((await note.body()).subarray(0, 5).toString()).toBe('%PDF-');
  await page.getByLabel(`Arrived: ${first}`).check();
  await page.getByRole('button', { name: 'Book 1 in' }).click();
  await expect(page.getByText(/1 line arrived at/)).toBeVisible();
  await page.getByRole('button', { name: /Write off what did not arrive/ }).click();
  await page.getByLabel(/will not arrive/).fill('lost at sea');
  await page.getByRole('button', { name: 'Write them off' }).click();
  await expect(page.getByText('all has arrived')).toBeVisible();
  await expect(page.getByText('lost at sea')).toBeVisible();
});

test('a carton and a serial leave and arrive by scan', async ({ page }) => {
  const [place, far, lot, serial] = ['TC', 'TD', 'TL', 'TS'].map((one) => fresh(one));
  const site = fresh('SITE');
  await signIn(page, 'wilf');
  await call(page.request, 'PUT', `places/${place}`, { name: 'shelf', site: 'QW' });
  await call(page.request, 'PUT', `places/${far}`, { name: 'gate', site });
  await call(page.request, 'POST', 'openings', {
    document: fresh('O'),
    lines: [
      { product: 'WEB-40', place, quantity: '9', marks: [{ lot }] },
      { product: 'INF', place, quantity: '1', marks: [{ serial, expires: '2031-01-01' }] }
    ]
  });
  const packed = await call(page.request, 'POST', 'packings', {
    document: fresh('P'),
    kind: 'pack',
    lines: [{ product: 'WEB-40', lot, quantity: '4' }],
    units: []
  });
  expect(packed.ok(), await packed.text()).toBe(true);
  const [sscc] = (await packed.json()).units as string[];

  await open(page, '/transfer');
  await page.getByRole('combobox', { name: 'from', exact: true }).selectOption('QW');
  await page.getByRole('combobox', { name: 'to', exact: true }).selectOption(site);
  const scan = page.getByLabel(/scan or paste what leaves/);
  // A carton label reads its number behind an application identifier.
  for (const one of [`(00)${sscc}`, serial!]) {
    await scan.fill(one);
    await scan.press('Enter');
  }
  await page.getByRole('button', { name: /^Send 2/ }).click();
  await expect(page.getByText('2 lots and serials under way')).toBeVisible();
  await expect(page.getByText(`in carton ${sscc}`)).toBeVisible();

  const here = page.getByLabel(/scan what is here/);
  await here.fill('NOT-OF-IT');
  await here.press('Enter');
  await expect(page.getByText(/NOT-OF-IT is not on the way/)).toBeVisible();
  for (const one of [`(00)${sscc}`, serial!]) {
    await here.fill(one);
    await here.press('Enter');
  }
  await page.getByRole('button', { name: 'Book 2 in' }).click();
  await expect(page.getByText(/2 lines arrived at/)).toBeVisible();
  const stock = await (await call(page.request, 'GET', `stock?place=${far}`)).json();
  expect(stock.rows.map((row: { quantity: string }) => row.quantity).sort()).toEqual(['1', '4']);
});

test('a transfer is ordered ahead, sent by what is proposed, and the rest of it closed', async ({
  page
}) => {
  const [place, far, early, late] = ['TE', 'TF', 'TX', 'TY'].map((one) => fresh(one));
  const [here, site, product, document] = ['HERE', 'SITE', 'WEB', 'TR'].map((one) => fresh(one));
  await signIn(page, 'wilf');
  await call(page.request, 'PUT', `places/${place}`, { name: 'shelf', site: here });
  await call(page.request, 'PUT', `places/${far}`, { name: 'gate', site });
  const made = await call(page.request, 'PUT', `products/${product}`, {
    name: 'webbing',
    unit: 'm',
    decimals: 1,
    made: false,
    marking: 'lot'
  });
  expect(made.ok(), await made.text()).toBe(true);
  const marks = [
    { lot: late, quantity: '5', expires: '2092-01-01' },
    { lot: early, quantity: '2', expires: '2091-01-01' }
  ];
  const opened = await call(page.request, 'POST', 'openings', {
    document: fresh('O'),
    lines: [{ product, place, quantity: '7', marks }]
  });
  expect(opened.ok(), await opened.text()).toBe(true);

  await open(page, '/transfer');
  await page.getByRole('link', { name: 'Order one ahead' }).click();
  // The page before has fields of the same names.
  await expect(page.getByRole('heading', { name: 'Order a transfer' })).toBeVisible();
  await page.getByRole('combobox', { name: 'from', exact: true }).selectOption(here!);
  await page.getByRole('combobox', { name: 'to', exact: true }).selectOption(site!);
  await page.getByLabel('document', { exact: true }).fill(document!);
  await page.getByLabel('Product of line 1').fill(product!);
  await page.getByLabel('Quantity of line 1').fill('9.25');
  await page.getByRole('button', { name: `Order ${document}` }).click();
  await expect(page.getByText('9.25 is finer')).toBeVisible();
  await page.getByLabel('Quantity of line 1').fill('9');
  await page.getByRole('button', { name: `Order ${document}` }).click();
  await expect(page.getByText('nothing has left')).toBeVisible();

  await page.getByRole('link', { name: 'Send it' }).click();
  await page.getByRole('button', { name: 'Propose what to take' }).click();
  await expect(page.getByText(`Not free at ${here}: 2 of ${product}.`)).toBeVisible();
  // Soonest to expire first.
  const ticks = page.getByRole('checkbox', { name: /^Send / });
  await expect(ticks.first()).toHaveAccessibleName(`Send ${early}`);
  await page.getByRole('button', { name: 'Send 2' }).click();
  await expect(page.getByText('2 lots and serials under way')).toBeVisible();

  await page.getByRole('button', { name: /Close it: the rest is not sent/ }).click();
  await expect(page.getByText('what has not left will not')).toBeVisible();
  await page.getByRole('button', { name: 'All of it is here' }).click();
  await page.getByRole('button', { name: 'Book 2 in' }).click();
  await expect(page.getByText('all has arrived')).toBeVisible();
});
