import { expect, test, vi } from 'vitest';
import { keptPage } from './kept-pages.ts';

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
