import { readFile } from 'node:fs/promises';
import { expect, test } from './test.ts';
import { call, fresh, open, signIn } from './company.ts';

test('a receipt is told what it cost: what was made of it follows, and the period says so', async ({
  page
}) => {
  const [place, lot] = ['VP', 'VL'].map((one) => fresh(one));
  await signIn(page, 'wilf');
  await call(page.request, 'PUT', `places/${place}`, { name: 'shelf', site: 'QW' });
  const receipt = await call(page.request, 'POST', 'openings', {
    document: fresh('VO'),
    lines: [{ product: 'WEB-40', place, quantity: '40', marks: [{ lot }] }]
  });
  expect(receipt.ok(), await receipt.text()).toBe(true);
  const { event, marks } = await receipt.json();

  // Nobody said what it cost: it is in no sum, and says so.
  await open(page, `/value?place=${place}`);
  await expect(page.getByText(/1 lot or serial whose cost is not known/)).toBeVisible();
  await open(page, `/events/${event.id}`);
  await page.getByRole('link', { name: 'What it costs …' }).click();
  const cost = page.getByLabel(`What one of ${lot} of WEB-40 costs`);
  await cost.fill('-1');
  await page.getByLabel('why').fill('the bill came');
  await page.getByRole('button', { name: `Tell the cost of event ${event.id}` }).click();
  await expect(page.getByText(/is no cost of one m/)).toBeVisible();
  await cost.fill('0.90');
  await page.getByLabel(/^amount/).fill('4');
  await page.getByRole('button', { name: `Tell the cost of event ${event.id}` }).click();
  await expect(page.getByText('✓ Told, as')).toBeVisible();

  // 40 at 0.90 and 4 of freight are 40.
  await open(page, `/value?place=${place}`);
  await expect(page.getByRole('row').filter({ hasText: place })).toContainText('40.00');
  await open(page, `/marks/${marks[0].id}`);
  await expect(page.getByText('told by')).toBeVisible();
  await open(page, '/value/changes');
  const row = page.getByRole('row').filter({ hasText: lot });
  await expect(row).toContainText('not known → 1.00');
  await expect(row).toContainText('the bill came');

  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'XLSX' }).click();
  const bytes = await readFile((await (await download).path())!);
  expect(bytes.subarray(0, 2).toString()).toBe('PK');
  const paper = await page.request.get(`/api/v1/value?format=pdf&place=${place}`);
  expect((await paper.body()).subarray(0, 5).toString()).toBe('%PDF-');
});

test('costs are seen only by who may', async ({ page }) => {
  await signIn(page, 'ines');
  await open(page, '/on-hand');
  await expect(page.getByRole('link', { name: 'Put away' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Value', exact: true })).toBeHidden();
  for (const path of ['value', 'value/changes?from=2026-01-01&to=2026-12-31'])
    expect((await page.request.get(`/api/v1/${path}`)).status()).toBe(403);
  const bill = await (await page.request.get('/api/v1/products/TN150/bill')).json();
  expect(bill).not.toHaveProperty('addedCost');
  const ledger = await page.request.get('/api/v1/exports/ledger?format=csv&number=HEAD-A');
  expect(await ledger.text()).not.toContain('unit cost');
  await page.goto('/value');
  await expect(page.getByText('40.00')).toBeHidden();
});
