import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, freePort, test } from './test.ts';
import { PASSWORD, TOKEN } from './company.ts';
import { caddy } from '../scripts/caddy.ts';

// Earmark behind Caddy as deploy/Caddyfile has it: TLS, and the word of the proxy alone.
test.use({ settings: { EARMARK_PROXY: '1' }, ignoreHTTPSErrors: true });

let proxy: ChildProcess;
let secure = '';
const folder = mkdtempSync(join(tmpdir(), 'earmark-caddy-'));

test.beforeAll(async ({ served }) => {
  const port = await freePort();
  secure = `https://localhost:${port}`;
  proxy = spawn(caddy(), ['run', '--config', 'deploy/Caddyfile', '--adapter', 'caddyfile'], {
    env: {
      ...process.env,
      HOME: folder,
      XDG_DATA_HOME: folder,
      EARMARK_HOST: `localhost:${port}`,
      EARMARK_TLS: 'tls internal',
      EARMARK_AT: new URL(served).host.replace('localhost', '127.0.0.1')
    },
    stdio: 'ignore'
  });
});
test.afterAll(() => {
  proxy.kill();
  rmSync(folder, { recursive: true, force: true });
});

test('people come in by TLS, and are told apart by their own address', async ({
  page,
  context
}) => {
  await expect
    .poll(() =>
      page.request.get(`${secure}/api/health`).then(
        (answer) => answer.status(),
        () => 0
      )
    )
    .toBe(200);
  await page.goto(`${secure}/sign-in`);
  await page.getByLabel('Name').fill('admin');
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: /^Today/ })).toBeVisible();
  const cookie = (await context.cookies()).find(({ name }) => name === 'earmark_session');
  expect(cookie).toMatchObject({ secure: true, httpOnly: true, sameSite: 'Lax' });

  const answer = await page.request.get(`${secure}/api/v1/account`, {
    headers: { 'x-forwarded-for': '6.6.6.6', 'x-forwarded-proto': 'http' }
  });
  expect(answer.headers()['strict-transport-security']).toContain('max-age=31536000');
  expect(answer.headers().server).toBeUndefined();
  const { sessions } = (await answer.json()) as { sessions: { address: string }[] };
  expect(sessions[0]!.address).toMatch(/^(127\.0\.0\.1|::1)$/);
});

test('what is larger than may be is refused, and answers are packed', async ({ request }) => {
  const headers = { authorization: `Bearer ${TOKEN}` };
  const big = await request.post(`${secure}/api/v1/receipts`, {
    headers: { ...headers, 'content-type': 'application/json' },
    data: Buffer.alloc(17 * 1024 * 1024, 0x20)
  });
  expect(Math.floor(big.status() / 100)).toBe(4);
  const document = await request.get(`${secure}/api/v1/openapi.json`, {
    headers: { ...headers, 'accept-encoding': 'gzip' }
  });
  expect(document.headers()['content-encoding']).toBe('gzip');
});
