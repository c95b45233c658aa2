import { axe } from './axe.ts';
import { call, fresh, open, signIn, still } from './company.ts';
import { expect, test, type Page } from './test.ts';

/** A stretch of a page that is read first. */
const stretch = (page: Page, title: string) => page.getByRole('region', { name: title });
const change = (page: Page, title: string) =>
  stretch(page, title)
    .getByRole('button', { name: `Change: ${title}` })
    .click();
const keep = (page: Page, title: string) =>
  stretch(page, title).getByRole('button', { name: 'Keep', exact: true }).click();

const BOLT = { name: 'bolt', unit: 'each', decimals: 0, made: false, marking: 'lot' };

test('a product is guided by three questions, then read in sentences and changed where they stand', async ({
  page
}) => {
  const code = fresh('GUIDED');
  await signIn(page, 'wilf');
  await open(page, '/setup/products/new');
  await page.getByLabel('Code').fill(code);
  await page.getByLabel('Name', { exact: true }).fill('guided');
  await page.getByRole('radio', { name: /^Made here/ }).check();
  await page.getByRole('radio', { name: /^By serial Every one has its own number\.$/ }).check();
  await page.getByRole('button', { name: `Keep ${code}` }).click();
  await expect(page.getByText('Made here, of what its bill says.')).toBeVisible();
  await expect(page.getByText(/It has no bill yet/)).toBeVisible();
  await expect(page.getByText('nothing of it was booked yet')).toBeVisible();

  // The focus goes into the first field, Esc leaves it, and the focus is back where it was.
  await change(page, 'Weight and size of one');
  await expect(page.getByLabel('Net')).toBeFocused();
  await page.keyboard.press('Escape');
  const opener = page.getByRole('button', { name: 'Change: Weight and size of one' });
  await expect(opener).toBeFocused();
  await page.keyboard.press('Enter');
  await page.getByLabel('Net').fill('2');
  await page.getByLabel('Gross').fill('1');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/The gross weight is below the net weight/)).toBeVisible();
  await page.getByLabel('Gross').fill('2.5');
  await page.keyboard.press('Enter');
  await expect(page.getByText('One weighs 2 kg net, 2.5 kg gross.')).toBeVisible();
  await expect(opener).toBeFocused();

  await change(page, 'Other units it is counted in');
  await page.getByRole('textbox', { name: 'Unit 1' }).fill('carton');
  await page.getByLabel('holds').fill('12');
  await keep(page, 'Other units it is counted in');
  await expect(page.getByText('One carton holds 12 each.')).toBeVisible();
  // What was kept of one stretch was not undone by the next.
  await expect(page.getByText('One weighs 2 kg net, 2.5 kg gross.')).toBeVisible();
});

test('of two who change one product nobody undoes the other', async ({ page, request }) => {
  const code = fresh('BOTH');
  await call(request, 'PUT', `products/${code}`, BOLT);
  await signIn(page, 'wilf');
  await open(page, `/setup/products/${code}`);
  await change(page, 'What it is');
  await page.getByLabel('Name', { exact: true }).fill('mine');
  await call(request, 'PUT', `products/${code}`, { ...BOLT, name: 'theirs', unit: 'box' });
  await keep(page, 'What it is');
  await expect(page.getByRole('alert')).toContainText('Somebody else changed this');
  // What it is now stands beside what was typed, which is still there.
  await expect(page.getByText('Counted in box, in whole units.')).toBeVisible();
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('mine');
  await page.getByLabel('Unit', { exact: true }).fill('box');
  await keep(page, 'What it is');
  await expect(page.getByRole('heading', { name: `${code} mine` })).toBeVisible();
  const kept = await (await call(request, 'GET', `products/${code}`)).json();
  expect(kept).toMatchObject({ name: 'mine', unit: 'box' });
});

test('a stretch that was changed is not left without asking', async ({ page, request }) => {
  const code = fresh('ASKS');
  await call(request, 'PUT', `products/${code}`, BOLT);
  await signIn(page, 'wilf');
  await open(page, `/setup/products/${code}`);
  await change(page, 'What it is');
  await page.getByLabel('Name', { exact: true }).fill('half typed');
  const asked: string[] = [];
  page.on('dialog', (dialog) => {
    asked.push(dialog.message());
    void dialog.dismiss();
  });
  await page.getByRole('link', { name: 'All products' }).click();
  await expect.poll(() => asked).toEqual(['What you changed is not kept yet. Leave it?']);
  await page.keyboard.press('Escape');
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('half typed');
});

test('a bill is drawn as the tree it is, with what is short at each part', async ({
  page,
  request
}) => {
  const [unit, head, screw] = [fresh('TREE'), fresh('HEAD'), fresh('SCREW')];
  await call(request, 'PUT', `products/${screw}`, BOLT);
  await call(request, 'PUT', `products/${head}`, {
    ...{ ...BOLT, made: true },
    components: [{ product: screw, quantity: '4' }]
  });
  await call(request, 'PUT', `products/${unit}`, {
    ...{ ...BOLT, made: true },
    components: [{ product: head, quantity: '2' }]
  });
  await call(request, 'POST', 'receipts', {
    document: fresh('R'),
    supplier: 'GANNET',
    lines: [
      {
        ...{ product: screw, place: 'QW-A1', quantity: '50' },
        marks: [{ lot: 'S-1', quantity: '50' }]
      }
    ]
  });
  await signIn(page, 'wilf');
  await open(page, `/setup/products/${unit}?quantity=10`);
  const tree = page.getByRole('region', { name: 'What it takes' });
  // Ten units take twenty heads, and those eighty screws, of which fifty are there.
  await expect(tree.getByRole('listitem').filter({ hasText: head }).first()).toContainText(
    /20\s+each\s+to make\s+0\s+each usable/
  );
  await expect(tree.getByRole('listitem').filter({ hasText: screw }).last()).toContainText(
    /30\s+each\s+short\s+50\s+each usable/
  );
  await open(page, `/setup/products/${screw}`);
  await expect(page.getByRole('link', { name: 'It goes into 1 other product.' })).toBeVisible();
  await expect(page.getByText('50 each on hand')).toBeVisible();
});

test('a place says what lies there and is changed where it stands', async ({ page, request }) => {
  const [code, place] = [fresh('LIES'), fresh('PLACE')];
  await signIn(page, 'wilf');
  await open(page, '/setup/places');
  await page.getByRole('button', { name: 'New place' }).click();
  const dialog = page.getByRole('dialog', { name: 'New place' });
  await dialog.getByLabel('Code').fill('qw-a1');
  await dialog.getByLabel('Name', { exact: true }).fill('shelf');
  await dialog.getByRole('button', { name: 'Keep place' }).click();
  await expect(dialog.getByText(/There is a place QW-A1 already/)).toBeVisible();
  await dialog.getByLabel('Code').fill(place);
  await dialog.getByRole('button', { name: 'Keep place' }).click();
  await expect(page.getByText('Nothing lies here.')).toBeVisible();
  await call(request, 'PUT', `products/${code}`, BOLT);
  await call(request, 'POST', 'receipts', {
    document: fresh('R'),
    supplier: 'GANNET',
    lines: [{ product: code, place, quantity: '7', marks: [{ lot: 'L', quantity: '7' }] }]
  });
  await open(page, `/setup/places/${place}`);
  await expect(page.getByRole('row', { name: new RegExp(`${code}.*7 each`) })).toBeVisible();
  // What lies there would be bound by a word: it is refused, and what was chosen still stands.
  await change(page, 'What it is');
  await page.getByLabel('Kind').selectOption('quarantine');
  await keep(page, 'What it is');
  await expect(page.getByText(/Move them first/)).toBeVisible();
  await expect(page.getByLabel('Kind')).toHaveValue('quarantine');
  await page.getByLabel('Kind').selectOption('bin');
  await keep(page, 'What it is');
  await expect(page.getByText(/^A bin: what lies here is free/)).toBeVisible();
});

test('a partner is read and changed on one page, wishes too', async ({ page }) => {
  const code = fresh('PART');
  await signIn(page, 'wilf');
  await open(page, '/setup/partners');
  await page.getByRole('button', { name: 'New partner' }).click();
  const dialog = page.getByRole('dialog', { name: 'New partner' });
  await dialog.getByLabel('Code').fill(code);
  await dialog.getByLabel('Name', { exact: true }).fill('Brightwater Chandlers');
  await dialog.getByLabel('Customer: we ship to them').check();
  await dialog.getByRole('button', { name: 'Keep partner' }).click();
  await expect(page.getByText('Is our customer.')).toBeVisible();
  await change(page, 'Where letters go');
  await page.getByLabel('Address, as it stands on a letter').fill('1 Quay\nHarbour');
  await keep(page, 'Where letters go');
  await expect(page.getByText('1 Quay')).toBeVisible();
  await change(page, 'What they wish');
  await page.getByLabel('To run, at least').fill('90');
  await page.getByLabel('tested goods only').check();
  await keep(page, 'What they wish');
  await expect(
    page.getByText('Of every product: at least 90 days to run, tested goods only.')
  ).toBeVisible();
});

test('a scheme is drawn with its parts, and begins where the old system stopped', async ({
  page
}) => {
  const code = fresh('OLD');
  await signIn(page, 'wilf');
  await open(page, '/setup/numbering');
  await page.getByRole('button', { name: 'New scheme' }).click();
  await page.getByLabel('Code').fill(code);
  await page.getByLabel('Name', { exact: true }).fill('taken over');
  await page.getByLabel('The next count').fill('4183');
  await expect(page.getByText('S-004183')).toBeVisible();
  await page.getByRole('button', { name: `Keep ${code}` }).click();
  const row = page.getByRole('listitem').filter({ hasText: code });
  await expect(row.getByText('The next number is S-004183.')).toBeAttached();
  await row.getByRole('button', { name: `Change ${code}` }).click();
  await page.getByLabel('The next count').fill('12');
  await page.getByRole('button', { name: `Keep ${code}` }).click();
  await expect(page.getByText(/12 was given already/)).toBeVisible();
});

test('a route is drawn in its order and a person is told by what they may', async ({ page }) => {
  const code = fresh('WAY');
  await signIn(page, 'wilf');
  await open(page, '/setup/routes');
  await page.getByRole('button', { name: 'New route' }).click();
  await page.getByLabel('Code', { exact: true }).fill(code);
  await page.getByLabel('Name', { exact: true }).fill('weld and test');
  await page.getByLabel('Code of station 1').fill(`${code}-W`);
  await page.getByLabel('Name of station 1').fill('welding');
  await page.getByRole('button', { name: 'Add a station' }).click();
  await page.getByLabel('Code of station 2').fill(`${code}-W`);
  await page.getByLabel('Name of station 2').fill('test');
  await page.getByRole('button', { name: `Keep ${code}` }).click();
  await expect(page.getByText(/stands twice/)).toBeVisible();
  await page.getByLabel('Code of station 2').fill(`${code}-T`);
  await page.getByRole('button', { name: `Keep ${code}` }).click();
  const row = page.getByRole('listitem').filter({ hasText: 'weld and test' }).first();
  await expect(row.getByRole('link')).toHaveText(['welding', 'test']);
});

test('a person is read by what they may, and their roles are changed there', async ({ page }) => {
  await signIn(page, 'admin');
  await open(page, '/setup/people');
  await page.getByRole('link', { name: 'ines' }).click();
  await expect(page.getByText(/^May .*receive.*count/)).toBeVisible();
  await change(page, 'What they may');
  await page.getByRole('checkbox', { name: /^shipper/ }).check();
  await keep(page, 'What they may');
  await expect(page.getByText('Is receiver, shipper.')).toBeVisible();
  await change(page, 'Password');
  await page.getByLabel('New password').fill('short');
  await keep(page, 'Password');
  await expect(stretch(page, 'Password').getByRole('alert').first()).toBeVisible();
});

const PART = { per: 'unit', scrapPercent: '0', follow: 'batch', positions: [], alternates: [] };

test('of two who change one bill nobody undoes the other; an earlier version is gone back to', async ({
  page,
  request
}) => {
  const code = fresh('BILL');
  await call(request, 'PUT', `products/${code}-P`, BOLT);
  await call(request, 'PUT', `products/${code}`, { ...BOLT, made: true });
  const put = (quantity: string) =>
    call(request, 'PUT', `products/${code}/bill`, {
      parts: [{ ...PART, product: `${code}-P`, quantity }]
    });
  expect((await put('2')).status()).toBe(201);
  await signIn(page, 'wilf');
  await open(page, `/setup/products/${code}/bill`);
  const part = page.getByRole('listitem').filter({ hasText: `${code}-P` });
  await expect(part.first()).toContainText('2 each');
  await expect(part.first()).toContainText('named once for the batch');
  await change(page, 'Version 1');
  await page.getByLabel('Quantity of part 1').fill('4');
  expect((await put('3')).status()).toBe(201);
  await page.getByRole('button', { name: 'Keep as version 2' }).click();
  await expect(page.getByText(/Somebody else changed this/)).toBeVisible();
  // What it is now stands beside what was typed, which is kept on top of it.
  await expect(stretch(page, 'Version 2')).toContainText('3 each');
  await expect(page.getByLabel('Quantity of part 1')).toHaveValue('4');
  await page.getByRole('button', { name: 'Keep as version 3' }).click();
  await expect(page.getByText('✓ Kept as version 3.')).toBeVisible();
  await expect(stretch(page, 'Version 3')).toContainText('4 each');

  await page.getByRole('link', { name: /^version 1 / }).click();
  await expect(page.getByText('It is not in force.')).toBeVisible();
  await change(page, 'Version 1');
  await page.getByLabel('What is new').fill('back to two');
  await page.getByRole('button', { name: 'Keep as version 4' }).click();
  await expect(page.getByText('✓ Kept as version 4.')).toBeVisible();
  await expect(stretch(page, 'Version 4')).toContainText('2 each');
  await expect(stretch(page, 'Version 4')).toContainText('New in it: back to two');
});

test('axe finds nothing on what is being changed where it stands', async ({ page }) => {
  test.slow();
  await signIn(page, 'wilf');
  for (const address of [
    '/setup/products/TN275',
    '/setup/products/TN275/bill',
    '/quality/products/BLD',
    '/setup/places/QW-B2',
    '/partners/PILOTS'
  ]) {
    await open(page, address);
    const openers = page.getByRole('button', { name: /^Change: / });
    await expect(openers.first()).toBeVisible();
    // Each leaves the list when it opens.
    while ((await openers.count()) > 0) await openers.first().click();
    await still(page);
    expect(await axe(page), address).toEqual([]);
  }
  for (const [address, name] of [
    ['/setup/numbering', /^Change/],
    ['/setup/routes', /^Change/]
  ] as const) {
    await open(page, address);
    await page.getByRole('button', { name }).first().click();
    await still(page);
    expect(await axe(page), address).toEqual([]);
  }
});
