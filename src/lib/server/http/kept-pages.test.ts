import type { IncomingMessage, ServerResponse } from 'node:http';
import { expect, test, vi } from 'vitest';
import { answerKept, keptPage } from './kept-pages.ts';

let made = 0;
const page =
  (status = 200, headers: Record<string, string> = {}) =>
  async () =>
    new Response(`page ${++made}`, {
      status,
      headers: { 'content-type': 'text/html', ...headers }
    });
const textOf = async (path: string, make: () => Promise<Response>) =>
  (await keptPage(path, make)).text();

test('a page is made once for all who ask for it within a moment, each address its own', async () => {
  const first = await textOf('/track/1', page());
  const again = await keptPage('/track/1', page());
  expect(await again.text()).toBe(first);
  expect(again.headers.get('content-type')).toBe('text/html');
  expect(await textOf('/track/2', page())).not.toBe(first);
});

test('after that moment it is made anew', async () => {
  const clock = vi.spyOn(performance, 'now').mockReturnValue(1_000_000);
  const first = await textOf('/track/3', page());
  clock.mockReturnValue(1_002_900);
  expect(await textOf('/track/3', page())).toBe(first);
  clock.mockReturnValue(1_003_100);
  expect(await textOf('/track/3', page())).not.toBe(first);
  clock.mockRestore();
});

test.each([
  ['what is refused', page(404)],
  ['what sets a cookie', page(200, { 'set-cookie': 'a=b' })]
])('%s is not kept', async (_, make) => {
  const path = `/track/${_}`;
  const first = await textOf(path, make);
  expect(await textOf(path, make)).not.toBe(first);
});

/** What a request gets ahead of the framework: status, headers and body, or nothing. */
function ahead(url: string, headers: Record<string, string> = {}, method = 'GET') {
  const request = {
    method,
    url,
    headers: { host: 'e.test', 'x-forwarded-proto': 'http', ...headers }
  };
  const response = { writeHead: vi.fn(), end: vi.fn() };
  const answered = answerKept(
    request as unknown as IncomingMessage,
    response as unknown as ServerResponse
  );
  return answered ? [...response.writeHead.mock.calls[0]!, ...response.end.mock.calls[0]!] : null;
}

test('what is kept is answered ahead of the framework, whatever follows its path', async () => {
  expect(ahead('/track/4')).toBeNull();
  const body = await textOf('http://e.test/track/4', page());
  const answer = [200, ['content-type', 'text/html'], body];
  expect(ahead('/track/4')).toEqual(answer);
  expect(ahead('/track/4?from=letter')).toEqual(answer);
});

test.each([
  ['under another host', '/track/5', { host: 'other.test' }, 'GET'],
  ['under another scheme', '/track/5', { 'x-forwarded-proto': 'https' }, 'GET'],
  ['signed in', '/track/5', { cookie: 'session=x' }, 'GET'],
  ['with a token', '/track/5', { authorization: 'Bearer x' }, 'GET'],
  ['another method', '/track/5', {}, 'POST'],
  ['another path', '/track/5/', {}, 'GET']
])('asked for %s, the framework answers', async (_, url, headers, method) => {
  await textOf('http://e.test/track/5', page());
  expect(ahead('/track/5')).not.toBeNull();
  expect(ahead(url, headers, method)).toBeNull();
});
