import { expect, test, type Page } from './test.ts';
import { call, fresh, open, signIn, takenBy } from './company.ts';

const inputOf = (page: Page, name: string) =>
  page.getByLabel(`Counted of ${name}`, { exact: true });

test('a place is counted by scan and by sheet while work goes on, and booked by somebody else', async ({
  page,
  browser
}) => {
  const [place, lot, serial, stray] = ['CP', 'CL', 'CS', 'CX'].map((one) => fresh(one));
  await signIn(page, 'wilf');
  const api = takenBy(page.request);
  await api('PUT', `places/${place}`, { name: 'shelf', site: 'QW' });
  await api('POST', 'openings', {
    document: fresh('O'),
    lines: [
      { product: 'WEB-40', place, quantity: '20', marks: [{ lot }] },
      { product: 'INF', place, quantity: '1', marks: [{ serial, expires: '2031-01-01' }] }
    ]
  });

  // Ines opens the count and counts.
  const context = await browser.newContext();
  const counter = await context.newPage();
  await signIn(counter, 'ines');
  await open(counter, '/count');
  await counter.getByLabel(`Count ${place}`).check();
  const document = fresh('CNT');
  await counter.getByLabel('number of the count').fill(document);
  await counter.getByRole('button', { name: `Count ${place}` }).click();
  await expect(counter.getByRole('heading', { name: document })).toBeVisible();
  await inputOf(counter, lot!).fill('18.5');
  await inputOf(counter, lot!).press('Tab');
  await expect(counter.getByText('-1.5')).toBeVisible();
  const scan = counter.getByLabel('scan or type a number, or a place');
  await scan.fill(stray!);
  await scan.press('Enter');
  await counter.getByRole('combobox', { name: 'product' }).fill('INF');
  await counter.getByRole('button', { name: 'Count it' }).click();
  await expect(counter.getByText('was never known').first()).toBeVisible();

  const paper = await counter.request.get(`/api/v1/counts/${document}/sheet`);
  expect((await paper.body()).subarray(0, 5).toString()).toBe('%PDF-');

  // A lot that is known and lies elsewhere only asks how much of it is here.
  await scan.fill('BOB-2533');
  await scan.press('Enter');
  await expect(counter.getByRole('combobox', { name: 'product' })).toBeHidden();
  await counter.getByLabel(/how much/).fill('3');
  await counter.getByRole('button', { name: 'Count it' }).click();
  await expect(counter.getByLabel('Counted of BOB-2533')).toHaveValue('3');
  await counter.getByLabel('Counted of BOB-2533').fill('');
  await counter.getByLabel('Counted of BOB-2533').press('Tab');

  // Meanwhile two metres go to the line.
  await api('POST', 'moves', {
    document: fresh('M'),
    kind: 'move',
    lines: [{ product: 'WEB-40', lot, from: place, to: 'QW-A1', quantity: '2' }]
  });
  // The serial was not found: saying that all is counted says so.
  await counter.getByRole('button', { name: `All of ${place} is counted` }).click();
  await expect(counter.getByText(/What is not named \(1\) counts as not there/)).toBeVisible();
  await counter.getByRole('button', { name: 'Yes, all is counted' }).click();
  await expect(counter.getByText('All places are counted.')).toBeVisible();
  await context.close();

  // Wilf, who did not count, sees what is off and books it with a reason.
  await open(page, `/count/${document}`);
  const approval = page.getByRole('region', { name: 'Approve' });
  await expect(approval.getByRole('row')).toHaveCount(4);
  await approval.getByLabel('reason').fill('counted after the move of the racks');
  await approval.getByRole('button', { name: 'Approve and book 3 differences' }).click();
  // What was never known has no cost of its own: it is asked for where it is found.
  await expect(approval.getByText(`What ${stray} costs is not known`)).toBeVisible();
  await approval.getByLabel(`What one of ${stray} costs`).fill('16.50');
  await approval.getByRole('button', { name: 'Approve and book 3 differences' }).click();
  await page.getByRole('link', { name: 'What it booked' }).click();
  await expect(page.getByText('counted after the move of the racks')).toBeVisible();
  await open(page, `/on-hand?q=${place}`);
  await expect(page.getByText(stray!)).toBeVisible();
  await expect(page.getByText(serial!)).toBeHidden();
  // 20, less 1.5 that were missing, less 2 that went meanwhile.
  await expect(page.getByRole('row').filter({ hasText: lot! })).toContainText('16.5');
});

test('goods are moved with one thumb: scanned, sent to the place scanned next, refused in sight', async ({
  page
}) => {
  const [from, to, lot] = ['MF', 'MT', 'ML'].map((one) => fresh(one));
  const first = fresh('MS').replace(/\d*$/, '100');
  const serials = [100, 101, 102].map((n) => first.replace(/100$/, String(n)));
  await page.setViewportSize({ width: 390, height: 800 });
  await signIn(page, 'wilf');
  for (const place of [from, to])
    await call(page.request, 'PUT', `places/${place}`, { name: 'shelf', site: 'QW' });
  const lines = [
    { product: 'WEB-40', place: from, quantity: '9', marks: [{ lot }] },
    { product: 'INF', place: from, quantity: '3', marks: serials.map((serial) => ({ serial })) }
  ];
  const opened = await call(page.request, 'POST', 'openings', { document: fresh('O'), lines });
  expect(opened.ok(), await opened.text()).toBe(true);

  await open(page, '/move');
  const scan = page.getByLabel(/scan or paste numbers/);
  await scan.fill(`${serials[0]}..${serials[2]}`);
  await scan.press('Enter');
  await scan.fill(lot!);
  await scan.press('Enter');
  await expect(page.getByText('1 row taken. Scan the place they go to.')).toBeVisible();
  await scan.fill(to!);
  await scan.press('Enter');
  await expect(page.getByText(`They go to ${to}.`)).toBeVisible();
  await page.getByLabel(`How much of ${lot}`).fill('10');
  await page.getByLabel(`How much of ${lot}`).press('Tab');
  await expect(page.getByText(/is short: 10 m asked/)).toBeVisible();
  await page.getByRole('button', { name: 'next fault' }).click();
  await expect(page.getByLabel(`How much of ${lot}`)).toBeFocused();
  await page.getByLabel(`How much of ${lot}`).fill('4');
  await page.getByLabel(`How much of ${lot}`).press('Tab');
  await expect(page.getByText(/draft kept/)).toBeVisible();
  await page.reload();
  await expect(page.getByLabel(`How much of ${lot}`)).toHaveValue('4');
  await page.getByRole('button', { name: 'Move 4' }).click();
  await expect(page.getByText(/4 lines moved, as event/)).toBeVisible();

  // What is left goes in one act: a place scanned alone offers all that lies there.
  await scan.fill(from!);
  await scan.press('Enter');
  await page.getByRole('button', { name: `Take everything at ${from}` }).click();
  await scan.fill(to!);
  await scan.press('Enter');
  await page.getByRole('button', { name: 'Move 1' }).click();
  await expect(page.getByText(/1 line moved, as event/)).toBeVisible();
  const stock = await (await call(page.request, 'GET', `stock?place=${to}`)).json();
  expect(
    stock.rows
      .map(
        (row: { mark: { number: string }; quantity: string }) =>
          `${row.mark.number} ${row.quantity}`
      )
      .sort()
  ).toEqual([`${lot} 9`, ...serials.map((serial) => `${serial} 1`)].sort());
});

test('the desk: any column sorts, filters stay in the address, and it is had as a file', async ({
  page
}) => {
  const [place, first, second] = ['DP', 'DL', 'DM'].map((one) => fresh(one));
  await signIn(page, 'wilf');
  await call(page.request, 'PUT', `places/${place}`, { name: 'shelf', site: 'QW' });
  const opened = await call(page.request, 'POST', 'openings', {
    document: fresh('O'),
    lines: [
      { product: 'WEB-40', place, quantity: '7', marks: [{ lot: first }] },
      { product: 'BOB-S', place, quantity: '3', marks: [{ lot: second, expires: '2031-01-01' }] }
    ]
  });
  expect(opened.ok(), await opened.text()).toBe(true);
  await open(page, `/on-hand?q=${place}`);
  await page.getByRole('link', { name: 'Every lot and serial' }).click();
  const numbers = page.locator('tbody tr td:nth-child(2)');
  await expect(numbers).toHaveCount(2);
  await page.getByRole('button', { name: 'On hand', exact: true }).click();
  await expect(page).toHaveURL(/sort=quantity/);
  await expect(numbers.first()).toContainText(second!);
  await page.getByRole('button', { name: /^On hand/ }).click();
  await expect(numbers.first()).toContainText(first!);
  await page.reload();
  await expect(numbers.first()).toContainText(first!);
  const csv = page.waitForEvent('download');
  await page.getByRole('link', { name: 'XLSX' }).click();
  expect((await csv).suggestedFilename()).toMatch(/^on-hand-.*xlsx$/);
  // Its place tells everything that happened there.
  await page.getByRole('link', { name: place, exact: true }).first().click();
  await expect(page.getByRole('row').filter({ hasText: first! })).toContainText('+7');
});

test('a product has a picture: set in Setup, shown to whoever picks, refused where it is none', async ({
  page
}) => {
  await signIn(page, 'wilf');
  await open(page, '/setup/products/TN150');
  const png = Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==',
    'base64'
  );
  const choose = page.getByLabel('Choose a picture');
  await choose.setInputFiles({ name: 'x.png', mimeType: 'image/png', buffer: Buffer.from('no') });
  await expect(page.getByText(/neither a PNG nor a JPEG/)).toBeVisible();
  await choose.setInputFiles({ name: 'jacket.png', mimeType: 'image/png', buffer: png });
  await expect(page.getByRole('img', { name: 'What TN150 looks like' })).toBeVisible();
  await open(page, '/ship/SO-3325/pick');
  await expect(page.getByRole('region', { name: 'Next stop' })).toBeVisible();
  const paper = await page.request.get('/api/v1/orders/sales/SO-3325/pick-list?format=pdf');
  expect((await paper.body()).subarray(0, 5).toString()).toBe('%PDF-');
  const traveler = await page.request.get('/api/v1/orders/work/WO-858/traveler');
  expect((await traveler.body()).subarray(0, 5).toString()).toBe('%PDF-');
  await open(page, '/setup/products/TN150');
  await page.getByRole('button', { name: 'Take it off' }).click();
  await expect(page.getByText('✓ Taken off.')).toBeVisible();
  await expect(page.getByRole('img', { name: 'What TN150 looks like' })).toBeHidden();
});
