import { createServer, type Server } from 'node:http';
import { Webhook } from 'standardwebhooks';
import { expect, test } from './test.ts';
import { alive, call, fresh, signIn } from './company.ts';

// Another system that is told what is booked, as somebody sets it up and looks after it.
let server: Server;
let address: string;
const told: { body: string; headers: Record<string, string> }[] = [];
test.beforeAll(async () => {
  server = createServer((request, response) => {
    let body = '';
    request.on('data', (part: Buffer) => (body += part.toString()));
    request.on('end', () => {
      told.push({ body, headers: request.headers as Record<string, string> });
      response.writeHead(204).end();
    });
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  address = `http://127.0.0.1:${(server.address() as { port: number }).port}/news`;
});
test.afterAll(() => new Promise((done) => server.close(done)));

test('a hook is made, told of a receipt, and told again when somebody asks', async ({
  page,
  request
}) => {
  await signIn(page, 'admin');
  await page.goto('/setup/hooks');
  await alive(page);
  await page.getByRole('button', { name: 'New hook' }).click();
  await page.getByLabel('What it is').fill('Enterprise system');
  await page.getByLabel('Address that is told').fill('http://erp.example/news');
  await page.getByRole('button', { name: 'Tell it from now on' }).click();
  await expect(page.getByText('It must begin with https://')).toBeVisible();
  // What was typed is still there.
  await expect(page.getByLabel('What it is')).toHaveValue('Enterprise system');
  await page.getByLabel('Address that is told').fill(address);
  await page.getByRole('button', { name: 'Tell it from now on' }).click();
  const secret = await page.locator('code').innerText();
  await page.getByRole('button', { name: 'I have kept it' }).click();
  await expect(page.getByText(secret)).toHaveCount(0);

  const document = fresh('HK');
  await call(request, 'POST', 'receipts', {
    ...{ document, supplier: 'PELLWORM' },
    lines: [
      { product: 'HEAD-A', place: 'DN-BENCH', quantity: '1', marks: [{ serial: fresh('HK') }] }
    ]
  });
  await expect.poll(() => told.length, { timeout: 60_000 }).toBe(1);
  const { body, headers } = told[0]!;
  expect(new Webhook(secret).verify(body, headers)).toMatchObject({
    type: 'receipt.booked',
    data: { document, kind: 'receive' }
  });

  await page.reload();
  await alive(page);
  const row = page.getByRole('row').filter({ hasText: document });
  await expect(row).toContainText('taken');
  await page.getByRole('button', { name: `Send ${document} again` }).click();
  await expect.poll(() => told.length, { timeout: 60_000 }).toBe(2);
  expect(told[1]!.headers['webhook-id']).toBe(headers['webhook-id']);
  await page.getByRole('button', { name: 'End Enterprise system' }).click();
  await expect(page.getByText(/^ended /)).toBeVisible();
});

test('whoever is no administrator has no hooks', async ({ page }) => {
  await signIn(page, 'wilf');
  expect((await page.goto('/setup/hooks'))!.status()).toBe(403);
  expect((await page.request.get('/api/v1/hooks')).status()).toBe(403);
});
