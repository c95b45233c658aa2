import { axe } from './axe.ts';
import { expect, test } from './test.ts';
import { alive, call, fresh, signIn } from './company.ts';

// From the pick list to the customer and back: chosen, picked by scan on a phone, packed, labelled,
// shipped on its pallet, returned and decided.
test('an order is picked by scan, packed into cartons, shipped on a pallet, and a unit of it comes back', async ({
  page,
  request
}) => {
  const code = fresh('SH'),
    so = fresh('SO');
  await call(request, 'PUT', `products/${code}`, {
    name: 'shipped',
    unit: 'each',
    decimals: 0,
    made: false,
    marking: 'serial',
    warrantyMonths: 12,
    netWeightKg: '1.5'
  });
  const serials = ['A', 'B', 'C', 'D'].map((letter) => `${code}-${letter}`);
  await call(request, 'POST', 'receipts', {
    document: `${code}-R`,
    supplier: 'GANNET',
    lines: [
      { product: code, place: 'QW-A1', quantity: '4', marks: serials.map((serial) => ({ serial })) }
    ]
  });
  await call(request, 'PUT', `orders/sales/${so}`, {
    partner: 'PILOTS',
    due: '2026-12-31',
    lines: [{ product: code, quantity: '3' }]
  });

  await test.step('the shipper is asked once for its serials, and leaves two for the picker', async () => {
    await signIn(page, 'priya');
    await page.goto(`/ship/${so}`);
    await alive(page);
    await expect(page.getByText('3 serials are not named yet.')).toBeVisible();
    await page.getByRole('button', { name: 'Name them later' }).click();
    await expect(page.getByText('Its serials are named later')).toBeVisible();
    await page.goto('/');
    await expect(page.getByRole('link', { name: new RegExp(`${so} lacks 3`) })).toBeVisible();
    await page.goto(`/ship/${so}/choose`);
    await alive(page);
    for (const serial of serials.slice(1, 3))
      await page.getByLabel(`Take ${serial}`, { exact: true }).uncheck();
    await page.getByLabel('the picker may take any free serial for the 2 not chosen here').check();
    await page.getByRole('button', { name: 'Make the pick list' }).click();
    await expect(page.getByRole('heading', { name: `Pick ${so}` })).toBeVisible();
  });

  await test.step('on a phone, scan by scan: the wrong one refused, another swapped in, one moved told', async () => {
    await page.setViewportSize({ width: 390, height: 844 });
    await call(request, 'POST', 'moves', {
      document: `${code}-M`,
      kind: 'move',
      lines: [{ product: code, serial: serials[0], from: 'QW-A1', to: 'QW-B2' }]
    });
    const scan = async (text: string) => {
      await page.getByLabel('Scan a lot or serial').fill(text);
      await page.getByLabel('Scan a lot or serial').press('Enter');
    };
    await scan('TN-004342');
    await expect(page.getByRole('alert')).toContainText('is not on hand. Scan another.');
    await scan(serials[0]!);
    await expect(page.getByRole('status')).toContainText(
      'It lies at QW-B2, not at QW-A1: the list says QW-B2 now.'
    );
    await scan(serials[1]!);
    await expect(page.getByText('2 of 3')).toBeVisible();
    await scan(serials[2]!);
    await expect(page.getByText('3 of 3')).toBeVisible();
    const paper = await page.request.get(`/api/v1/orders/sales/${so}/pick-list?format=pdf`);
    expect((await paper.body()).subarray(0, 5).toString()).toBe('%PDF-');
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.getByRole('link', { name: /^Pack 3/ }).click();
  });

  await test.step('packed into two cartons on one pallet, and shipped', async () => {
    await alive(page);
    const scan = async (text: string) => {
      await page.getByLabel('Scan a lot, a serial or a carton').fill(text);
      await page.getByLabel('Scan a lot, a serial or a carton').press('Enter');
    };
    await page.getByRole('button', { name: 'Big type' }).click();
    await expect(page.getByText('No carton in hand')).toBeVisible();
    expect(await axe(page)).toEqual([]);
    await scan(serials[0]!);
    await expect(page.getByText(`${serials[0]} packed.`)).toBeVisible();
    await expect(page.getByText('1 number in it')).toBeVisible();
    await page.getByRole('button', { name: 'Big type' }).click();
    await expect(page.getByText('1 number in it')).toHaveCount(0);
    await scan(serials[1]!);
    await expect(page.getByText(`${serials[1]} packed.`)).toBeVisible();
    await scan(serials[1]!);
    await expect(page.getByRole('alert')).toContainText(/is in carton …\d{6} already/);
    await page.getByRole('button', { name: 'New carton' }).click();
    await scan(serials[2]!);
    await expect(page.locator('section.unit')).toHaveCount(2);
    for (const box of await page.getByLabel(/^Choose carton/).all()) await box.check();
    await page.getByRole('button', { name: '2 cartons onto a new pallet' }).click();
    await expect(page.getByText('2 cartons on a new pallet.')).toBeVisible();
    await page.getByRole('button', { name: 'Ship 1 pallet' }).click();
    await expect(page.getByRole('heading', { name: `Shipped on ${so}` })).toBeVisible();
    const notice = await (
      await page.request.get(
        (await page.getByRole('link', { name: 'Shipment notice' }).getAttribute('href'))!
      )
    ).json();
    expect(notice.epcisBody.eventList.at(-1)).toMatchObject({
      type: 'ObjectEvent',
      bizStep: 'shipping'
    });
    const paper = await page.request.get(
      (await page.getByRole('link', { name: 'Delivery note' }).getAttribute('href'))!
    );
    expect((await paper.body()).subarray(0, 5).toString()).toBe('%PDF-');
  });

  await test.step('its page says who has it and until when its warranty runs; it comes back by scan, once', async () => {
    const {
      marks: [mark]
    } = await (await call(request, 'GET', `marks?product=${code}&serial=${serials[0]}`)).json();
    await page.goto(`/marks/${mark.id}`);
    await expect(page.getByRole('region', { name: 'Sheet' })).toContainText(
      'Harbour Pilots’ Mutual has it'
    );
    await expect(page.getByText(/warranty until/)).toBeVisible();
    await page.getByRole('link', { name: 'Take back …' }).click();
    await alive(page);
    await page.getByLabel('Scan what came back').fill(serials[3]!);
    await page.getByLabel('Scan what came back').press('Enter');
    await expect(page.getByText(/was never shipped: it lies at Quay Works, rack A1/)).toBeVisible();
    await page.getByRole('button', { name: `Take ${serials[3]} off` }).click();
    await page.getByLabel('why, in their words').fill('strap frayed');
    await page.getByRole('button', { name: 'Take back 1' }).click();
    await expect(page.getByRole('status')).toContainText('held until somebody decides');
    await expect(page.getByRole('row', { name: new RegExp(serials[0]!) })).toContainText('held');
  });

  await test.step('and stands among what is owed no more', async () => {
    await page.goto('/ship/backorders');
    await expect(page.getByRole('heading', { name: 'Still owed to customers' })).toBeVisible();
    await expect(page.getByRole('table')).not.toContainText(so);
  });
});
