import { expect, test } from './test.ts';
import { call, fresh, open, signIn, takenBy } from './company.ts';

test('a unit comes back: taken in by scan, its head swapped and claimed, sent back', async ({
  page
}) => {
  const [serial, head, spare] = ['SU', 'SH', 'SS'].map((one) => fresh(one)) as [
    string,
    string,
    string
  ];
  await signIn(page, 'wilf');
  const api = takenBy(page.request);
  const product = fresh('UNIT');
  await api('PUT', `products/${product}`, {
    ...{ name: 'strobe light', unit: 'each', decimals: 0, made: true, marking: 'serial' },
    warrantyMonths: 24
  });
  const marks = [{ serial: head }, { serial: spare }];
  await api('POST', 'receipts', {
    document: fresh('DN'),
    supplier: 'PELLWORM',
    lines: [{ product: 'HEAD-A', place: 'DN-BENCH', quantity: '2', marks }]
  });
  const outputs = [{ product, serial, quantity: '1' }];
  const inputs = [{ product: 'HEAD-A', serial: head, quantity: '1' }];
  const groups = [{ outputs, inputs }];
  await api('POST', 'builds', { document: fresh('B'), place: 'DN-BENCH', groups });
  await api('POST', 'shipments', {
    document: fresh('S'),
    customer: 'SKARROW',
    lines: [{ product, marks: [{ serial }] }]
  });

  await open(page, '/service');
  await page.getByRole('link', { name: 'Take a unit in' }).click();
  const scan = page.getByLabel(/scan the unit/);
  await scan.fill(serial);
  await scan.press('Enter');
  await expect(page.getByText('Skarrow Ferries').first()).toBeVisible();
  await expect(page.getByText(/under warranty until/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Open the job' })).toBeDisabled();
  await page.getByLabel('what is wrong, in their words').fill('It does not light.');
  await page.getByLabel(/e-mail/).fill('mate@skarrow.example');
  await page.getByRole('button', { name: 'Open the job' }).click();
  await expect(page.getByRole('heading', { name: /^Job SJ-/ })).toBeVisible();
  const number = /SJ-\d+/.exec(page.url())![0];

  // Its head comes out, and another goes in.
  await page.getByRole('link', { name: 'Swap parts' }).click();
  await page.getByLabel(`What becomes of ${head}`).selectOption('held');
  await page.getByLabel(`What goes in for ${head}`).fill(spare);
  await page.getByLabel('Why, kept for ever').fill('weak');
  await page.getByRole('button', { name: /^Swap/ }).click();
  await page.getByRole('link', { name: `On with ${number}` }).click();
  await page.getByRole('button', { name: 'Claim it …' }).click();
  await page.getByLabel(`why ${head} is claimed`).fill('Does not fire.');
  await page.getByRole('button', { name: 'Claim it', exact: true }).click();
  await expect(page.getByRole('link', { name: /^CL-/ })).toBeVisible();
  await page.getByLabel('what was found, or done').fill('Lit ten times.');
  await page.getByRole('button', { name: 'Keep as done' }).click();
  await expect(page.getByText('Lit ten times.')).toBeVisible();
  await page.getByRole('button', { name: 'ready', exact: true }).click();
  // Their customer reads German.
  await expect(page.getByText(`${number}: es ist fertig`)).toBeVisible();
  const receipt = await page.request.get(`/api/v1/service-jobs/${number}/receipt`);
  expect((await receipt.body()).subarray(0, 5).toString()).toBe('%PDF-');
  await page.getByRole('button', { name: 'Send it back …' }).click();
  await page.getByRole('button', { name: 'Send it back', exact: true }).click();
  await expect(page.locator('.state')).toHaveText('sent back');

  // Whoever fetches it signs on the glass of the phone.
  await page.getByRole('link', { name: 'booked: ship' }).click();
  await page.getByRole('button', { name: 'Sign on glass …' }).click();
  await page.getByLabel('who signs').fill('Runa Tideholm');
  const glass = (await page.getByLabel('Sign here').boundingBox())!;
  await expect(page.getByRole('button', { name: 'Keep it' })).toBeDisabled();
  await page.mouse.move(glass.x + 30, glass.y + 30);
  await page.mouse.down();
  await page.mouse.move(glass.x + 200, glass.y + 80, { steps: 5 });
  await page.mouse.up();
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByRole('img', { name: 'Signature of Runa Tideholm' })).toBeVisible();

  await open(page, '/service/claims');
  await page.getByLabel(/find: our number/).fill(head);
  await page.getByRole('button', { name: 'Find' }).click();
  const claim = page.getByRole('region', { name: /^Claim CL-/ });
  await claim.getByRole('button', { name: 'It is sent' }).click();
  await claim.getByLabel(`Serial in the place of ${head}`).fill('PD-NEW');
  await claim.getByRole('button', { name: 'Replaced' }).click();
  await expect(claim.getByText('PD-NEW')).toBeVisible();
  await expect(claim.getByText(/^answered/)).toBeVisible();
});

test('whoever holds a unit sees its page without signing in or a script, and guesses are limited', async ({
  page,
  browser
}) => {
  await signIn(page, 'wilf');
  const settings = {
    ...{ tracking: true, unitPages: true, howToSend: 'By post.' },
    ...{ shows: ['warranty', 'recall'], tells: [] }
  };
  const kept = await call(page.request, 'PUT', 'service-settings', settings);
  expect(kept.ok(), await kept.text()).toBe(true);
  const jobs = await (await call(page.request, 'GET', 'service-jobs')).json();
  const { number } = (jobs.rows as { number: string }[])[0]!;
  const { job } = await (await call(page.request, 'GET', `service-jobs/${number}`)).json();
  // GTIN of the GS1 Digital Link standard's own examples.
  const [product, gtin, serial] = [fresh('LINK'), '09506000134352', fresh('L')];
  const made = { name: 'whistle', unit: 'each', decimals: 0, made: false, marking: 'serial', gtin };
  await call(page.request, 'PUT', `products/${product}`, made);
  const marks = [{ serial }];
  const lines = [{ product, place: 'DN-BENCH', quantity: '1', marks }];
  const opened = await call(page.request, 'POST', 'openings', { document: fresh('O'), lines });
  expect(opened.ok(), await opened.text()).toBe(true);

  const context = await browser.newContext({ javaScriptEnabled: false });
  const outside = await context.newPage();
  await outside.goto(`/track/${job.tracking}`);
  await expect(outside.getByRole('heading', { name: `Job ${number}` })).toBeVisible();
  expect(await outside.content()).not.toContain(job.customerName);
  await outside.goto(`/01/${gtin}/21/${serial}`);
  await expect(outside.getByText(serial)).toBeVisible();
  await expect(outside.getByText('By post.')).toBeVisible();
  expect(await outside.locator('script').count()).toBe(0);
  // Asked for at once again it is kept, with everything that guards a page.
  for (let again = 0; again < 2; again++) {
    const reply = await outside.request.get(`/track/${job.tracking}`);
    expect(reply.headers()).toMatchObject({
      'cache-control': 'no-store',
      'x-content-type-options': 'nosniff',
      'content-security-policy': expect.stringContaining("default-src 'self'")
    });
  }

  // Thirty numbers that name nothing, and the door is shut for a while.
  let status = 0;
  for (let n = 0; n < 40 && status !== 429; n++)
    status = (await outside.request.get(`/track/${String(n).padStart(20, '0')}`)).status();
  expect(status).toBe(429);
  await context.close();
});

test('units go on: one is tested and kept under a new number, one is exchanged without a job', async ({
  page
}) => {
  const product = fresh('LAMP');
  const [stays, gone, instead] = ['K', 'G', 'I'].map((one) => fresh(one)) as [
    string,
    string,
    string
  ];
  await signIn(page, 'wilf');
  const api = takenBy(page.request);
  await api('PUT', `products/${product}`, {
    ...{ name: 'lamp', unit: 'each', decimals: 0, made: false, marking: 'serial' }
  });
  await api('PUT', `products/${product}/spec`, {
    limits: [{ name: 'burns', kind: 'number', unit: 'h', least: '6', required: true }]
  });
  const marks = [stays, gone, instead].map((serial) => ({ serial }));
  const lines = [{ product, place: 'DN-BENCH', quantity: '3', marks }];
  await api('POST', 'openings', { document: fresh('O'), lines });
  await api('POST', 'shipments', {
    document: fresh('S'),
    customer: 'SKARROW',
    lines: [{ product, marks: [{ serial: stays }, { serial: gone }] }]
  });
  await api('POST', 'service-jobs', {
    unit: { product, serial: stays },
    customer: 'SKARROW',
    place: 'DN-BENCH',
    fault: 'dim'
  });

  await open(page, '/service?as=list');
  await page
    .getByRole('row', { name: new RegExp(stays) })
    .getByRole('link')
    .click();
  await page.getByRole('button', { name: 'Record a test …' }).click();
  await page.getByLabel('burns').first().fill('8');
  await page.getByRole('button', { name: 'Keep the test' }).click();
  await expect(page.getByText(/is kept. A second person signs it off/)).toBeVisible();
  await expect(page.getByText('waits for a second person')).toBeVisible();
  await page.getByRole('button', { name: 'Into our stock …' }).click();
  await page.getByLabel(/why it stays/).fill('bought back');
  await page.getByLabel(/new number/).fill(`${stays}-R`);
  await page.getByRole('button', { name: 'Take it into our stock' }).click();
  await expect(page.locator('.state')).toHaveText('ended');
  await page.getByRole('link', { name: `${stays}-R`, exact: true }).click();
  await expect(page.getByRole('heading', { name: /Every transaction/ })).toBeVisible();
  await expect(page.getByText(stays, { exact: true }).first()).toBeVisible();

  await open(page, '/returns');
  await page.getByLabel('Scan what came back').fill(gone);
  await page.getByLabel('Scan what came back').press('Enter');
  await page.getByLabel(`What goes out in place of ${gone}`).fill('NEVER-MADE');
  await page.getByRole('button', { name: 'Exchange 1' }).click();
  await expect(page.getByText(/There is no serial NEVER-MADE/)).toBeVisible();
  await page.getByLabel(`What goes out in place of ${gone}`).fill(instead);
  await page.getByRole('button', { name: 'Exchange 1' }).click();
  await expect(page.getByText('Another goes out in its place')).toBeVisible();
  await page.getByRole('link', { name: 'the delivery' }).click();
  await expect(page.getByText(instead).first()).toBeVisible();
});
