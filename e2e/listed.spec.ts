import { readFileSync } from 'node:fs';
import { axe } from './axe.ts';
import { call, fresh, open, signIn } from './company.ts';
import { expect, test, type Page } from './test.ts';

const ask = async (page: Page) => {
  await page.getByRole('button', { name: 'Print or save what is listed' }).click();
  const dialog = page.getByRole('dialog', { name: 'Print or save what is listed' });
  await dialog.waitFor();
  return dialog;
};

/** Presses a button of the dialog; answers the file it keeps, in lines. */
async function saved(page: Page, button: string): Promise<{ name: string; lines: string[] }> {
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('dialog').getByRole('button', { name: button }).click()
  ]);
  const text = readFileSync(await download.path(), 'utf8').replace(/^\ufeff/, '');
  return { name: download.suggestedFilename(), lines: text.trim().split('\r\n') };
}

test('a list is saved as it is shown, narrowed and with all the pages that follow', async ({
  page,
  request
}) => {
  const prefix = fresh('LISTED');
  const code = (at: number) => `${prefix}-${String(at).padStart(3, '0')}`;
  for (let at = 0; at < 130; at++)
    await call(request, 'put', `products/${code(at)}`, {
      ...{ name: `=part ${at}`, unit: 'm', decimals: 1, made: false, marking: 'lot' }
    });
  await signIn(page, 'wilf');
  await open(page, `/setup/products?q=${prefix}`);
  await expect(page.getByRole('row')).toHaveCount(101);
  const dialog = await ask(page);
  await expect(dialog).toContainText('100 rows');
  expect(await axe(page)).toEqual([]);
  const { name, lines } = await saved(page, 'CSV');
  expect(name).toMatch(/\.csv$/);
  expect(lines).toHaveLength(131);
  expect(lines[0]).toMatch(/^Code,Name,/);
  for (const at of [0, 99, 100, 129]) expect(lines.join('\n')).toContain(code(at));
  // With its unit, as it stands there; nothing is taken for a formula.
  expect(lines[1]).toContain('0 m');
  expect(lines[1]).not.toMatch(/(^|,)=/);
  await expect(dialog).toBeHidden();

  const again = await ask(page);
  await again.getByRole('checkbox', { name: 'with the pages that follow' }).uncheck();
  expect((await saved(page, 'CSV')).lines).toHaveLength(101);
});

test('of a screen with several lists one is chosen, and printed as a paper', async ({
  page,
  context
}) => {
  await signIn(page, 'wilf');
  await open(page, '/');
  const dialog = await ask(page);
  const held = dialog.getByRole('radio', { name: /^Held, waiting for a decision/ });
  await held.check();
  await expect(held).toBeChecked();
  const [asked] = await Promise.all([
    page.waitForRequest('**/lists'),
    context.waitForEvent('page'),
    dialog.getByRole('button', { name: 'Print' }).click()
  ]);
  const { title, rows, screen, format } = asked.postDataJSON() as Record<string, unknown>;
  expect([title, screen, format]).toEqual([
    expect.stringMatching(/^Held, waiting for a decision/),
    'Today',
    'pdf'
  ]);
  expect((rows as string[][]).length).toBeGreaterThan(0);
  const answer = (await asked.response())!;
  expect(answer.status()).toBe(200);
  expect(answer.headers()['content-type']).toBe('application/pdf');
});

test('what cannot be had is told, and nothing is lost of what is on the screen', async ({
  page
}) => {
  await signIn(page, 'wilf');
  await open(page, '/setup/partners');
  await page.route('**/lists', (route) => route.abort());
  const dialog = await ask(page);
  await dialog.getByRole('button', { name: 'Workbook' }).click();
  await expect(dialog.getByRole('alert')).toContainText('Earmark cannot be reached');
  await page.unroute('**/lists');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    dialog.getByRole('button', { name: 'Workbook' }).click()
  ]);
  expect(download.suggestedFilename()).toMatch(/\.xlsx$/);
  await expect(page.getByRole('heading', { name: 'Partners' })).toBeVisible();
});
