import { axe } from './axe.ts';
import { call, fresh, open, product, purchase, signIn } from './company.ts';
import { plainPlan } from '../src/lib/core/catalogue/plan.ts';
import { expect, test, type Page } from './test.ts';

// Receiving at arm's length: one scan after the other, in big type.

const told = (page: Page) => page.getByLabel('Line in hand').locator('.said');

async function scan(page: Page, text: string): Promise<void> {
  const field = page.getByLabel(/^Scan a number of/);
  await expect(field).toBeFocused();
  await page.keyboard.type(text);
  await page.keyboard.press('Enter');
}

test('a dock with gloves: each scan is told in a colour, a wrong one is refused, the last is taken back, all is booked', async ({
  page,
  request
}) => {
  const [unit, glue] = [fresh('UNIT'), fresh('GLUE')];
  await product(request, unit, { marking: 'serial' });
  const plan = { ...plainPlan('lot'), name: 'dated lots', expires: 'entered' };
  expect((await call(request, 'PUT', `marking-plans/${glue}`, plan)).ok()).toBe(true);
  await product(request, glue, { plan: glue, unit: 'kg', decimals: 3 });
  const order = await purchase(request, [
    { product: unit, quantity: '3' },
    { product: glue, quantity: '12.5' }
  ]);
  const serial = (n: number) => `${unit}-${n}`;
  await signIn(page, 'wilf');
  await open(page, `/receive/${order}`);
  await page.getByRole('radio', { name: /One by one/ }).click();

  await test.step('numbers of one product, each heard at once', async () => {
    await expect(told(page)).toHaveText(`Scan the serial of the first ${unit}.`);
    await scan(page, serial(1));
    await expect(told(page)).toHaveText(`${serial(1)} is in. 2 to go.`);
    await scan(page, serial(2));
    await expect(page.getByLabel('Also scanned')).toContainText(serial(1));
    await scan(page, serial(1).toLowerCase());
    await expect(told(page)).toHaveClass(/refused/);
    await expect(told(page)).toContainText('is on this sheet already');
    await scan(page, 'WRONG');
    await expect(told(page)).toHaveText(`WRONG is in. ${unit} is complete.`);
    await page.getByRole('button', { name: 'Undo the last scan' }).click();
    await expect(told(page)).toHaveText('The last scan is taken back.');
    await scan(page, serial(3));
    await expect(told(page)).toContainText(`${serial(3)} is in. ${unit} is complete.`);
    expect(await axe(page)).toEqual([]);
  });

  await test.step('the code of another product takes its line in hand', async () => {
    await scan(page, glue);
    await expect(told(page)).toHaveText(`Scan the lot of the first ${glue}.`);
    await scan(page, 'TF-88');
    await expect(page.getByLabel('Quantity')).toHaveValue('12.5');
    await page.getByLabel('Expires').fill('12/2027');
    await page.getByLabel(/^Scan a number of/).focus();
    await expect(page.getByLabel('Expires')).toHaveValue('31 Dec 2027');
  });

  await test.step('a card takes its line in hand, with what was scanned last there', async () => {
    await page.getByRole('tab', { name: unit }).click();
    await expect(page.getByLabel('Line in hand')).toContainText(serial(3));
    await expect(told(page)).not.toContainText('TF-88');
  });

  await test.step('the device keeps to it, and what was scanned is kept', async () => {
    await expect(page.getByText(/draft kept/)).toBeVisible();
    await open(page, `/receive/${order}`);
    await expect(page.getByRole('radio', { name: /One by one/ })).toBeChecked();
    await expect(page.getByLabel('Line in hand')).toContainText('3 of 3');
  });

  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: /^Booked in on/ })).toBeVisible();
  const found = await call(request, 'GET', `marks?product=${unit}&limit=10`);
  const { marks } = (await found.json()) as { marks: { number: string }[] };
  expect(marks.map(({ number }) => number).sort()).toEqual([1, 2, 3].map(serial));
  const lots = await call(request, 'GET', `marks?product=${glue}&limit=10`);
  expect(await lots.json()).toMatchObject({ marks: [{ number: 'TF-88', expires: '2027-12-31' }] });
});

test('what the ledger refuses of a scan is told a moment after it, and next fault puts it in hand', async ({
  page,
  request
}) => {
  const unit = fresh('UNIT');
  await product(request, unit, { marking: 'serial' });
  const [first, second] = [
    await purchase(request, [{ product: unit, quantity: '1' }]),
    await purchase(request, [{ product: unit, quantity: '2' }])
  ];
  const booked = await call(
    request,
    'POST',
    'receipts',
    {
      document: first,
      supplier: 'GANNET',
      lines: [{ product: unit, place: 'QW-DOCK', quantity: '1', marks: [{ serial: 'TWICE' }] }]
    },
    { 'idempotency-key': fresh('key') }
  );
  expect(booked.status()).toBe(201);
  await signIn(page, 'wilf');
  await page.setViewportSize({ width: 390, height: 844 });
  await open(page, `/receive/${second}`);
  await page.getByRole('radio', { name: /One by one/ }).click();
  await scan(page, 'TWICE');
  await expect(told(page)).toHaveClass(/refused/);
  await expect(told(page)).toContainText('TWICE');
  await scan(page, `${unit}-GOOD`);
  await expect(told(page)).toContainText(`${unit}-GOOD is in.`);
  await page.getByRole('button', { name: /next fault/ }).click();
  await expect(told(page)).toHaveClass(/refused/);
  await page.getByRole('button', { name: 'Take TWICE off the sheet' }).click();
  await expect(told(page)).toHaveText('TWICE is off the sheet.');
  await expect(page.getByRole('button', { name: /next fault/ })).toHaveCount(0);
});
