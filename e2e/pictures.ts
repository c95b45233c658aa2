import { expect, test } from './test.ts';
import { alive, call, signIn, still } from './company.ts';

// `npm run pictures`: one current picture of each main view in docs/screenshots, from the demo.
test('pictures of the main views', async ({ page, request }) => {
  const id = async (query: string): Promise<number> =>
    (await (await call(request, 'GET', `marks?${query}`)).json()).marks[0].id;
  const lot = await id('product=BOB-S&lot=BOB-2511'),
    jacket = await id('product=TN150&serial=TN-004342');
  /** A sheet is pictured when its verdict has come, which the draft is kept after. */
  const take = async (name: string): Promise<void> => {
    await page.waitForLoadState('networkidle');
    await expect(page.getByText('keeping draft …')).toHaveCount(0);
    await still(page);
    await page.screenshot({ path: `docs/screenshots/${name}.png` });
  };
  // The line for news never rests, and nobody else is here.
  await page.route('**/news', (route) => route.fulfill({ status: 204 }));
  await signIn(page, 'wilf');
  await take('today');
  await page.goto('/receive/PO-2142');
  await alive(page);
  await page.getByLabel('Serial, row 1').fill('C33-04298');
  for (const serial of ['C33-04299', 'C33-04300', 'C33-04300', 'C33-04150']) {
    await page.keyboard.press('Enter');
    await page.keyboard.type(serial);
  }
  await page.keyboard.press('Enter');
  for (const [row, weight] of [
    [1, '133'],
    [2, '134'],
    [3, '132'],
    [4, '133'],
    [5, '127']
  ] as const)
    await page.getByLabel(`Gross weight, g, row ${row}`).fill(weight);
  await still(page);
  await page.getByLabel('Serial, row 4').focus();
  await take('receive');
  await page.goto('/build/WO-858');
  await alive(page);
  await page.getByRole('button', { name: /named units on the sheet/ }).click();
  await page.getByRole('button', { name: 'Fill parts in order' }).click();
  await page.getByLabel('INF, row 3').fill('');
  await take('build');
  await page.getByRole('radio', { name: /Unit by unit/ }).click();
  const bench = page.getByLabel('Scan the unit or a part');
  await bench.fill('GC-600');
  await bench.press('Enter');
  await take('build-unit');
  await page.goto(`/marks/${jacket}/as-built`);
  await take('as-built');
  await page.goto('/build/floor');
  await take('floor');
  await page.goto('/setup/products/TN275');
  await take('setup-product');
  await page.goto('/ship/SO-3322');
  await page.getByRole('button', { name: 'Take first expired' }).click();
  await take('ship');
  await page.goto('/ship/SO-3321/choose');
  await take('choose');
  await page.goto('/quality/products/TN150');
  await take('quality-spec');
  await page.goto('/on-hand?q=QW-C1');
  await take('on-hand');
  const counted = await call(request, 'POST', 'counts', {
    document: 'C-261129',
    places: ['QW-C1']
  });
  const { lines } = (await counted.json()).count;
  await call(request, 'PUT', 'counts/C-261129/entries', {
    lines: lines.slice(0, 3).map(({ expected, ...line }: { expected: string }, n: number) => ({
      ...line,
      quantity: n === 1 ? '2' : expected
    }))
  });
  await page.goto('/count/C-261129');
  await take('count');
  await page.goto('/value');
  await take('value');
  await page.goto(`/marks/${lot}`);
  await take('mark');
  await page.goto(`/trace/${lot}?direction=downstream`);
  await take('trace-river');
  await page.goto('/recall/RC-0001');
  await take('recall');
  await page.goto('/service/SJ-0002');
  await take('service');
  await page.goto('/setup/plans?plan=COLD');
  await page
    .getByRole('complementary', { name: 'Try it' })
    .getByLabel('lot must be given')
    .fill('TF-1204');
  await page
    .getByRole('complementary', { name: 'Try it' })
    .getByLabel(/arrival temperature/)
    .fill('9.5');
  await take('setup-plan');
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto('/ship/SO-3325/pick');
  await take('pick-phone');
});
