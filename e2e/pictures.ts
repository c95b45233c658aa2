import { test } from '@playwright/test';
import { call, signIn } from './company';

// `npm run pictures`: one current picture of each main view in docs/screenshots, from the demo.
test('pictures of the main views', async ({ page, request }) => {
  const id = async (query: string): Promise<number> => (await (await call(request, 'GET', `marks?${query}`)).json()).marks[0].id;
  const lot = await id('product=BOB-S&lot=BOB-2511'), jacket = await id('product=TN150&serial=TN-004342');
  const take = async (name: string): Promise<void> => { await page.waitForTimeout(900); await page.screenshot({ path: `docs/screenshots/${name}.png` }); };
  await page.goto('/sign-in');
  await take('sign-in');
  await signIn(page, 'wilf');
  await take('today');
  await page.goto('/receive/PO-2141');
  await page.getByLabel('Serial, row 1').fill('PD-88401');
  for (const serial of ['PD-88402', 'PD-88403', 'PD-88403', 'PD-88405', 'PD-88154']) { await page.keyboard.press('ArrowDown'); await page.keyboard.type(serial); }
  await page.waitForTimeout(600);
  await page.getByRole('button', { name: 'next fault' }).click();
  await take('receive');
  await page.goto('/build/WO-858');
  await page.getByRole('button', { name: 'Make numbers' }).click();
  await page.getByRole('button', { name: 'Fill parts in order' }).click();
  await page.getByLabel('INF, row 3').fill('');
  await take('build');
  await page.goto('/ship/SO-3322');
  await page.getByRole('button', { name: 'Take first expired' }).click();
  await take('ship');
  await page.goto('/on-hand?q=QW-C1');
  await take('on-hand');
  await page.goto(`/marks/${lot}`);
  await take('mark');
  await page.goto(`/trace/${lot}?direction=downstream`);
  await take('trace-river');
  await page.goto(`/trace/${jacket}?direction=upstream&view=outline`);
  await take('trace-outline');
  await page.goto('/setup/products/TN150');
  await take('setup-product');
  await page.goto('/setup/numbering');
  await page.getByLabel('Change BATCH').click();
  await take('setup-numbering');
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto('/receive/PO-2144');
  await take('receive-phone');
});
