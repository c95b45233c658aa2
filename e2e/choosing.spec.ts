import { expect, test } from './test.ts';
import { alive, call, fresh, signIn, signOut } from './company.ts';

// Which lot goes to which customer: limits, a test and its second signature, the proposal with its
// reasons, a promise, the certificate.
test('a lot is tested, signed, chosen for a customer with a stricter limit, promised, shipped and certified', async ({
  page,
  request
}) => {
  const code = fresh('CH'),
    so = fresh('SO');
  await call(request, 'PUT', `products/${code}`, {
    name: 'tested',
    unit: 'each',
    decimals: 0,
    made: false,
    marking: 'lot'
  });
  await call(request, 'POST', 'receipts', {
    document: `${code}-R`,
    supplier: 'GANNET',
    lines: [
      {
        product: code,
        place: 'QW-A1',
        quantity: '20',
        marks: [
          { lot: `${code}-A`, quantity: '10', expires: '2031-01-01' },
          { lot: `${code}-B`, quantity: '10', expires: '2032-01-01' }
        ]
      }
    ]
  });
  await call(request, 'PUT', `orders/sales/${so}`, {
    partner: 'PILOTS',
    due: '2026-12-31',
    lines: [{ product: code, quantity: '4' }]
  });
  const idOf = async (lot: string): Promise<number> =>
    (await (await call(request, 'GET', `marks?product=${code}&lot=${lot}`)).json()).marks[0].id;
  const [a, b] = [await idOf(`${code}-A`), await idOf(`${code}-B`)];

  await test.step('quality sets limits, and stricter ones of a customer', async () => {
    await signIn(page, 'marit');
    await page.goto(`/quality/products/${code}`);
    await alive(page);
    await expect(page.getByText('No limits are set')).toBeVisible();
    await page.getByRole('button', { name: 'Change: Limits' }).click();
    await page.getByLabel('Characteristic 1', { exact: true }).fill('force');
    await page.getByLabel('Least of characteristic 1').fill('100');
    await page.getByRole('button', { name: 'Keep as version 1' }).click();
    await expect(page.getByRole('alert')).toContainText('force has no unit');
    await page.getByLabel('Unit of characteristic 1').fill('N');
    await page.getByRole('button', { name: 'Keep as version 1' }).click();
    await expect(page.getByText('force is at least 100 N; it must be tested.')).toBeVisible();
    expect(
      (
        await call(request, 'PUT', `products/${code}/spec?partner=PILOTS`, {
          limits: [{ name: 'force', kind: 'number', unit: 'N', least: '120' }]
        })
      ).status()
    ).toBe(201);
  });

  await test.step('and tests both lots; a result that says nothing is refused and stays typed', async () => {
    for (const [id, value] of [
      [a, '110'],
      [b, '130']
    ] as const) {
      await page.goto(`/marks/${id}`);
      await alive(page);
      await page.getByRole('button', { name: 'Record a test …' }).click();
      await page.getByLabel(/^force/).fill(value);
      if (id === a) {
        await page.getByLabel('Unit of force').fill('kg');
        await page.getByRole('button', { name: 'Keep the test' }).click();
        await expect(page.getByRole('alert')).toContainText(
          'force is measured in N, and kg is given'
        );
        await expect(page.getByLabel(/^force/)).toHaveValue('110');
        await page.getByLabel('Unit of force').fill('N');
      }
      await page.getByRole('button', { name: 'Keep the test' }).click();
      await expect(page.getByText(/is kept. A second person signs it off/)).toBeVisible();
    }
    await page.goto('/quality');
    await alive(page);
    await expect(
      page
        .getByRole('listitem')
        .filter({ hasText: `${code}-A` })
        .getByRole('button', { name: 'Your own test' })
    ).toBeDisabled();
    await signOut(page);
  });

  await test.step('a second person signs; the proposal says of each lot why it goes or stays', async () => {
    await signIn(page, 'wilf');
    await page.goto('/quality');
    await alive(page);
    for (const lot of ['A', 'B']) {
      const row = page.getByRole('listitem').filter({ hasText: `${code}-${lot}` });
      await row.getByRole('button', { name: 'Sign off' }).click();
      await expect(row).toHaveCount(0);
    }
    await page.goto(`/ship/${so}`);
    await alive(page);
    await page.getByRole('link', { name: 'Choose and promise …' }).click();
    await expect(
      page.getByRole('row', { name: new RegExp(`${code}-A.*force 110 N is below 120`) })
    ).toBeVisible();
    await expect(page.getByLabel(`Take of ${code}-B`)).toHaveValue('4');
    await page.getByRole('button', { name: 'Promise 1 to this order' }).click();
    await expect(page.getByText(`✓ 1 mark promised to ${so}.`)).toBeVisible();
    await expect(page.getByText('4 each to this order')).toBeVisible();
    await page.getByRole('button', { name: 'Put 1 on the sheet' }).click();
    await expect(page.getByLabel('Lot, row 1')).toHaveValue(`${code}-B`);
  });

  await test.step('what does not conform is refused on the sheet; what does is shipped and certified', async () => {
    await page.getByLabel('Lot, row 1').fill(`${code}-A`);
    await expect(
      page.getByText(/does not conform: force 110 N is below 120/).first()
    ).toBeVisible();
    await page.getByLabel('Lot, row 1').fill(`${code}-B`);
    await expect(page.getByText('✓ on hand')).toBeVisible();
    await page.getByRole('button', { name: 'Ship 4' }).click();
    await expect(page.getByRole('heading', { name: /Shipped on/ })).toBeVisible();
    await page.getByRole('link', { name: /^\d+$/ }).first().click();
    await alive(page);
    const opened = page.waitForEvent('popup');
    await page.getByRole('button', { name: 'Certificate of analysis' }).click();
    await opened;
    const link = page.getByRole('link', { name: /^CA-/ });
    await expect(link).toBeVisible();
    const pdf = await page.request.get((await link.getAttribute('href'))!);
    expect((await pdf.body()).subarray(0, 4).toString()).toBe('%PDF');
  });
});
