import { expect, test } from './test.ts';
import { PASSWORD, alive, call, fresh, paste, signIn, signOut } from './company.ts';

// The main job through the real interface: receive, build unit by unit, ship, and trace both ways.
test('from the dock to the customer and back', async ({ page, request }) => {
  const [raw, part, unit, po, wo, so] = [
    fresh('RAW'),
    fresh('PART'),
    fresh('UNIT'),
    fresh('PO'),
    fresh('WO'),
    fresh('SO')
  ];
  await call(request, 'PUT', `products/${raw}`, {
    name: 'raw goods',
    unit: 'kg',
    decimals: 2,
    made: false,
    marking: 'lot'
  });
  await call(request, 'PUT', `products/${part}`, {
    name: 'part',
    unit: 'each',
    decimals: 0,
    made: false,
    marking: 'serial'
  });
  await call(request, 'PUT', `products/${unit}`, {
    name: 'finished unit',
    unit: 'each',
    decimals: 0,
    made: true,
    marking: 'serial',
    components: [
      { product: raw, quantity: '0.5' },
      { product: part, quantity: '1' }
    ]
  });
  const due = new Date().toISOString().slice(0, 10);
  await call(request, 'PUT', `orders/purchase/${po}`, {
    partner: 'PELLWORM',
    due,
    lines: [
      { product: part, quantity: '3' },
      { product: raw, quantity: '2' }
    ]
  });
  await call(request, 'PUT', `orders/work/${wo}`, {
    due,
    lines: [{ product: unit, quantity: '2' }]
  });
  await call(request, 'PUT', `orders/sales/${so}`, {
    partner: 'SKARROW',
    due,
    lines: [{ product: unit, quantity: '1' }]
  });

  await test.step('receive: paste serials, number a lot, book', async () => {
    await signIn(page, 'ines');
    await page.goto(`/receive/${po}`);
    await alive(page);
    await page.getByLabel('Serial, row 1').focus();
    await paste(page, `${part}-1\n${part}-2\n${part}-2\n`);
    await expect(page.getByText('Already in row 2 of this sheet')).toBeVisible();
    await expect(page.getByLabel('Tally')).toContainText('1 fault');
    await page.keyboard.press('Escape');
    await page.keyboard.press('n');
    await expect(page.getByLabel('Serial, row 3')).toBeFocused();
    await page.getByLabel('Serial, row 3').fill(`${part}-3`);
    await expect(page.getByLabel('Tally')).not.toContainText('fault');
    await page.getByRole('tab', { name: raw }).click();
    await page.getByLabel('Lot, row 1').fill(`${raw}-L`);
    await expect(page.getByLabel('Quantity, kg, row 1')).toHaveValue('2');
    await page.getByLabel('delivery note').fill('DN 777');
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('heading', { name: `Booked in on ${po}` })).toBeVisible();
    await signOut(page);
  });

  await test.step('build: two units, each with its own part', async () => {
    await signIn(page, 'tomas');
    await page.goto(`/build/${wo}`);
    await alive(page);
    await page.getByLabel(`${unit} serial, row 1`).fill(`${unit}-A`);
    await expect(page.getByLabel(`${raw} lot, row 1`)).toHaveValue(`${raw}-L`);
    await expect(page.getByText(`${part} not named`).first()).toBeVisible();
    // The scanner: part of the unit in hand, then the next unit, then its part.
    const scan = page.getByRole('combobox', { name: /Scan or type/ });
    for (const text of [`${part}-1`, `${unit}-B`, `${part}-2`]) {
      await scan.fill(text);
      await scan.press('Enter');
    }
    await expect(page.getByLabel(`${part}, row 1`)).toHaveValue(`${part}-1`);
    await expect(page.getByLabel(`${part}, row 2`)).toHaveValue(`${part}-2`);
    await page.getByRole('button', { name: 'Book 2 built' }).click();
    await expect(page.getByRole('heading', { name: `Built on ${wo}` })).toBeVisible();
    await signOut(page);
  });

  await test.step('ship one of them', async () => {
    await signIn(page, 'priya');
    await page.goto(`/ship/${so}`);
    await alive(page);
    await page.getByRole('button', { name: `Take ${unit}-B` }).click();
    await expect(page.getByText('✓ on hand')).toBeVisible();
    await page.getByRole('button', { name: 'Ship 1' }).click();
    await expect(page.getByRole('heading', { name: `Shipped on ${so}` })).toBeVisible();
    await signOut(page);
  });

  await test.step('an auditor scans the lot and sees where it went, and the unit and sees where it came from', async () => {
    await signIn(page, 'noor');
    await page.keyboard.press('/');
    await page.keyboard.type(`${raw}-L`);
    await page.keyboard.press('Enter');
    await expect(
      page
        .getByText('DN 777')
        .or(page.getByRole('link', { name: 'Where to ▸' }))
        .first()
    ).toBeVisible();
    await page.getByRole('link', { name: 'Where to ▸' }).click();
    await expect(page.getByLabel('Tally')).toContainText('100 % accounted for');
    await expect(page.getByText('It closes.')).toBeVisible();
    await expect(page.getByRole('button', { name: /Skarrow Ferries/ })).toBeVisible();
    await page.getByRole('tab', { name: 'Table' }).click();
    await expect(
      page.getByRole('row', { name: new RegExp(`${unit}-B.*Skarrow Ferries, ${so}`) })
    ).toBeVisible();
    await expect(
      page.getByRole('row', { name: new RegExp(`${unit}-A.*1 each at `) })
    ).toBeVisible();
    await page.getByRole('link', { name: `${unit}-B`, exact: true }).click();
    await page.getByRole('link', { name: '◂ Where from' }).click();
    await page.getByRole('tab', { name: 'Outline' }).click();
    await expect(page.getByRole('list').getByText(`${part}-2`)).toBeVisible();
    await expect(page.getByText(`${part}-1`, { exact: true })).toHaveCount(0);
  });
});

test('nothing typed is lost: not by a refusal, a reload, a lost session or a lost connection', async ({
  page,
  request
}) => {
  const [product, po] = [fresh('KEEP'), fresh('PO')];
  await call(request, 'PUT', `products/${product}`, {
    name: 'kept',
    unit: 'each',
    decimals: 0,
    made: false,
    marking: 'serial'
  });
  await call(request, 'PUT', `orders/purchase/${po}`, {
    partner: 'PELLWORM',
    due: '2030-01-01',
    lines: [{ product, quantity: '5' }]
  });
  await signIn(page, 'ines');
  await page.goto(`/receive/${po}`);
  await alive(page);
  await page.getByLabel('Serial, row 1').fill(`${product}-1`);
  await expect(page.getByText(/draft kept/)).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Serial, row 1')).toHaveValue(`${product}-1`);

  await page.context().setOffline(true);
  await page.getByLabel('Serial, row 2').fill(`${product}-2`);
  await page.getByRole('button', { name: 'Book in 2' }).click();
  await expect(page.getByRole('alert')).toContainText('cannot be reached');
  await page.context().setOffline(false);
  await expect(page.getByText(/draft kept/)).toBeVisible();

  await page.context().clearCookies();
  await page.getByLabel('Serial, row 3').fill(`${product}-3`);
  const dialog = page.getByRole('dialog', { name: 'Sign in again' });
  await expect(dialog).toBeVisible();
  await dialog.getByLabel('Password', { exact: true }).fill(PASSWORD);
  await dialog.getByRole('button', { name: 'Sign in' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByLabel('Serial, row 3')).toBeFocused();
  for (const n of [1, 2, 3])
    await expect(page.getByLabel(`Serial, row ${n}`)).toHaveValue(`${product}-${n}`);
  await page.getByRole('button', { name: 'Book in 3' }).click();
  await expect(page.getByRole('heading', { name: `Booked in on ${po}` })).toBeVisible();
});

test('ten thousand serials are pasted, judged and booked, and only those in view are drawn', async ({
  page,
  request
}) => {
  const [product, po] = [fresh('MANY'), fresh('PO')];
  await call(request, 'PUT', `products/${product}`, {
    name: 'many',
    unit: 'each',
    decimals: 0,
    made: false,
    marking: 'serial'
  });
  await call(request, 'PUT', `orders/purchase/${po}`, {
    partner: 'PELLWORM',
    due: '2030-01-01',
    lines: [{ product, quantity: '10000' }]
  });
  await signIn(page, 'ines');
  await page.goto(`/receive/${po}`);
  await alive(page);
  await page.getByLabel('Serial, row 1').focus();
  await paste(page, Array.from({ length: 10_000 }, (_, i) => `${product}-${i % 9_999}`).join('\n'));
  await expect(page.getByLabel('Tally')).toContainText('1 fault', { timeout: 90_000 });
  expect(await page.locator('tbody input').count()).toBeLessThan(80);
  await page.keyboard.press('Escape');
  await page.keyboard.press('n');
  await expect(page.getByLabel('Serial, row 10000')).toBeFocused();
  await page.getByLabel('Serial, row 10000').fill(`${product}-LAST`);
  await expect(page.getByLabel('Tally')).not.toContainText('fault', { timeout: 90_000 });
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: `Booked in on ${po}` })).toBeVisible({
    timeout: 90_000
  });
});

test('orders and a product are set up on screen, with what is wrong said at the field', async ({
  page
}) => {
  const [product, po] = [fresh('NEW'), fresh('PO')];
  await signIn(page, 'wilf');
  await page.goto('/setup/products/new');
  await alive(page);
  await page.getByLabel('Code').fill(product);
  await page.getByLabel('Name', { exact: true }).fill('set up on screen');
  await page.getByRole('button', { name: `Keep ${product}` }).click();
  await expect(page.getByRole('status')).toHaveText('✓ Kept.');
  const what = page.getByRole('region', { name: 'What it is' });
  await what.getByRole('button', { name: 'Change' }).click();
  await what.getByLabel('GTIN').fill('6291041500214');
  await what.getByRole('button', { name: 'Keep' }).click();
  await expect(
    page.getByText('is not 8, 12, 13 or 14 digits with a right check digit')
  ).toBeVisible();
  await what.getByLabel('GTIN').fill('6291041500213');
  await what.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByText('Its GTIN is 06291041500213.')).toBeVisible();
  await page.goto('/orders/new?kind=purchase');
  await alive(page);
  await page.getByLabel('Number', { exact: true }).fill(po);
  await page.getByLabel('Supplier').fill('PELLWORM');
  await page.getByLabel('Product of line 1').fill('NO-SUCH');
  await page.getByLabel('Quantity of line 1').fill('4');
  await page.getByRole('button', { name: `Enter ${po}` }).click();
  await expect(page.getByText('There is no product NO-SUCH')).toBeVisible();
  await page.getByLabel('Product of line 1').fill(product);
  await page.getByRole('button', { name: `Enter ${po}` }).click();
  await expect(page.getByRole('heading', { name: new RegExp(po) })).toBeVisible();
});

test('a scheme makes the numbers of a receipt, and the grid fills down and takes back', async ({
  page,
  request
}) => {
  const [product, po, scheme] = [fresh('NUM'), fresh('PO'), fresh('SCH')];
  await signIn(page, 'wilf');
  await page.goto('/setup/numbering');
  await alive(page);
  await page.getByRole('button', { name: 'New scheme' }).click();
  await page.getByLabel('Code').fill(scheme);
  await page.getByLabel('Name', { exact: true }).fill('of the browser test');
  await page.getByLabel('Text of part 1').fill(`${scheme}-`);
  await page.getByLabel('Places of the counter').fill('3');
  await expect(page.getByText(`${scheme}-005`)).toBeVisible();
  await page.getByLabel('Its counter').selectOption('day');
  await expect(page.getByText('the number must hold the date')).toBeVisible();
  await expect(page.getByRole('button', { name: `Keep ${scheme}` })).toBeDisabled();
  await page.getByLabel('Its counter').selectOption('never');
  await page.getByRole('button', { name: `Keep ${scheme}` }).click();
  await expect(page.getByText(`The next number is ${scheme}-001.`)).toBeAttached();

  await call(request, 'PUT', `products/${product}`, {
    name: 'numbered',
    unit: 'each',
    decimals: 0,
    made: false,
    marking: 'serial-in-lot',
    shelfLifeDays: 100,
    serialScheme: scheme
  });
  await call(request, 'PUT', `orders/purchase/${po}`, {
    partner: 'PELLWORM',
    due: '2030-01-01',
    lines: [{ product, quantity: '4' }]
  });
  await page.goto(`/receive/${po}`);
  await alive(page);
  await page.getByRole('button', { name: 'Make numbers' }).click();
  await expect(page.getByLabel('Serial, row 4')).toHaveValue(`${scheme}-004`);
  await page.getByLabel('Lot, row 1').fill('THEIR-LOT');
  await page.keyboard.press('Control+d');
  await expect(page.getByLabel('Lot, row 4')).toHaveValue('THEIR-LOT');
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Lot, row 4')).toHaveValue('');
  await page.keyboard.press('Control+d');
  await page.getByRole('button', { name: 'Book in 4' }).click();
  await expect(page.getByRole('heading', { name: `Booked in on ${po}` })).toBeVisible();
});

test('what one line takes back does not land on another', async ({ page, request }) => {
  const [a, b, po] = [fresh('LA'), fresh('LB'), fresh('PO')];
  for (const code of [a, b])
    await call(request, 'PUT', `products/${code}`, {
      name: 'of two lines',
      unit: 'each',
      decimals: 0,
      made: false,
      marking: 'serial'
    });
  await call(request, 'PUT', `orders/purchase/${po}`, {
    partner: 'PELLWORM',
    due: '2030-01-01',
    lines: [
      { product: a, quantity: '3' },
      { product: b, quantity: '3' }
    ]
  });
  await signIn(page, 'ines');
  await page.goto(`/receive/${po}`);
  await alive(page);
  await page.getByLabel('Serial, row 1').fill(`${a}-1`);
  await page.getByLabel('Serial, row 2').fill(`${a}-2`);
  await page.getByRole('tab', { name: b }).click();
  await page.getByLabel('Serial, row 1').fill(`${b}-1`);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Serial, row 1')).toHaveValue('');
  await page.getByRole('tab', { name: a }).click();
  await expect(page.getByLabel('Serial, row 2')).toHaveValue(`${a}-2`);
});

test('quality holds a lot from its page, and it can no longer be shipped', async ({
  page,
  request
}) => {
  const [product, lot] = [fresh('HOLD'), fresh('LOT')];
  await call(request, 'PUT', `products/${product}`, {
    name: 'to hold',
    unit: 'kg',
    decimals: 1,
    made: false,
    marking: 'lot'
  });
  const booked = await (
    await call(request, 'POST', 'receipts', {
      document: fresh('GR'),
      supplier: 'GANNET',
      lines: [{ product, place: 'QW-A1', quantity: '5', marks: [{ lot }] }]
    })
  ).json();
  await signIn(page, 'marit');
  await page.goto(`/marks/${booked.marks[0].id}`);
  await alive(page);
  await page.getByRole('button', { name: 'Hold …' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('button', { name: `Hold ${lot}` })).toBeDisabled();
  await dialog.getByLabel('Reason, kept for ever').fill('Smells of solvent.');
  await dialog.getByRole('button', { name: `Hold ${lot}` }).click();
  await expect(page.getByText('usable → held')).toBeVisible();
  await expect(page.getByText('“Smells of solvent.”')).toBeVisible();
  const refused = await call(request, 'POST', 'shipments', {
    document: fresh('SH'),
    customer: 'SKARROW',
    lines: [{ product, place: 'QW-A1', marks: [{ lot, quantity: '1' }] }]
  });
  expect((await refused.json()).errors[0].code).toBe('mark.held');
});
