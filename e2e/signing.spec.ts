import { readFileSync } from 'node:fs';
import { expect, test } from './test.ts';
import { fresh, open, PASSWORD, signIn, takenBy, signOut } from './company.ts';

// A plan that has a release signed by a second person: set in its sentence, asked over the act.
test('a release is signed by a second person, and its event says by whom, when and why', async ({
  page,
  request
}) => {
  const taken = takenBy(request);
  const [plan, product, lot] = [fresh('SIGN'), fresh('SGN'), fresh('LOT')];
  await test.step('the plan says what is signed', async () => {
    await signIn(page, 'wilf');
    await open(page, '/setup/plans');
    await page.getByRole('button', { name: 'New plan' }).click();
    await page.getByLabel('Code', { exact: true }).fill(plan);
    await page.getByLabel('Name', { exact: true }).fill('signed');
    await page
      .getByLabel('Who signs where goods are released, or leave quarantine')
      .selectOption('a second person');
    await expect(page.getByText('signs with their password: released by.')).toBeVisible();
    await page.getByRole('button', { name: `Keep ${plan}` }).click();
    await expect(page.getByText('✓ Kept as version 1.')).toBeVisible();
  });
  await taken('PUT', `products/${product}`, {
    ...{ name: 'signed', unit: 'kg', decimals: 1, made: false, marking: 'lot', plan }
  });
  await taken('POST', 'receipts', {
    document: fresh('GR'),
    supplier: 'GANNET',
    lines: [{ product, place: 'QW-A1', quantity: '5', marks: [{ lot }] }]
  });
  await taken('POST', 'quality-decisions', {
    ...{ document: fresh('H'), kind: 'hold', reason: 'Smells.', marks: [{ product, lot }] }
  });

  await signOut(page);
  await signIn(page, 'marit');
  await open(page, `/on-hand/rows?q=${lot}`);
  await page.getByRole('link', { name: lot }).click();
  await page.getByRole('button', { name: 'Release …' }).click();
  const release = page.getByRole('dialog').filter({ hasText: 'Reason, kept for ever' });
  await release.getByLabel('Reason, kept for ever').fill('Aired.');
  await release.getByRole('button', { name: `Release ${lot}` }).click();
  const signature = page.getByRole('dialog', { name: 'Signature' });
  await expect(signature.getByText('the signature of a second person')).toBeVisible();
  const [name, why, password] = [
    signature.getByLabel('Name of the second person to sign in'),
    signature.getByLabel('Why, kept with it for ever'),
    signature.getByLabel('Password of who signs')
  ];
  await expect(name).toBeFocused();
  await page.keyboard.type('marit');
  await why.fill('Smelled at it too.');
  await password.fill(PASSWORD);
  await password.press('Enter');
  await expect(signature.getByText('Another person must sign it.')).toBeVisible();
  await name.fill('wilf');
  await password.fill('not his');
  await signature.getByRole('button', { name: 'Sign' }).click();
  await expect(signature.getByText('Name and password do not match')).toBeVisible();
  await expect(why).toHaveValue('Smelled at it too.');
  await password.fill(PASSWORD);
  await password.press('Enter');
  await expect(page.getByText('held → usable')).toBeVisible();
  await page
    .getByRole('link', { name: /Release|release/ })
    .first()
    .click();
  await expect(page.getByText(/Released by Wilf .*“Smelled at it too.”/)).toBeVisible();
});

test('the proof of a trace is checked by whoever has it, without signing in and without asking', async ({
  page,
  request
}) => {
  const [product, lot] = [fresh('PRF'), fresh('LOT')];
  const taken = takenBy(request);
  await taken('PUT', `products/${product}`, {
    ...{ name: 'proved', unit: 'kg', decimals: 1, made: false, marking: 'lot' }
  });
  await taken('POST', 'receipts', {
    document: fresh('GR'),
    supplier: 'GANNET',
    lines: [{ product, place: 'QW-A1', quantity: '5', marks: [{ lot }] }]
  });
  await signIn(page, 'wilf');
  await open(page, `/on-hand/rows?q=${lot}`);
  await page.getByRole('link', { name: lot }).click();
  await page.getByRole('link', { name: 'Where to' }).click();
  await page.getByText('Save as').click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'proof' }).click()
  ]);
  const text = readFileSync(await download.path(), 'utf8');
  await signOut(page);

  await open(page, '/proof');
  const sent: string[] = [];
  page.on('request', (one) => sent.push(one.url()));
  const give = (content: string) =>
    page.getByLabel('Choose a proof file').setInputFiles({
      name: 'p.json',
      mimeType: 'application/json',
      buffer: Buffer.from(content)
    });
  await give(text);
  await expect(page.getByRole('heading', { name: '✓ 1 event as sealed' })).toBeVisible();
  await expect(page.getByText(`trace downstream of ${lot} of ${product}`)).toBeVisible();
  await expect(page.getByText('the key of this Earmark')).toBeVisible();
  await give(text.replace('GR-', 'GX-'));
  await expect(page.getByRole('heading', { name: '✗ This does not hold' })).toBeVisible();
  await expect(page.getByText(/1 event is not what was sealed: event \d+/)).toBeVisible();
  await give('{"no":"proof"}');
  await expect(page.getByRole('alert')).toContainText('is no proof file of Earmark');
  expect(sent).toEqual([]);
});
