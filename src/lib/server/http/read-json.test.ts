import { performance } from 'node:perf_hooks';
import { expect, test } from 'vitest';
import { refusalsOf } from '../testing/caught.ts';
import { MOST_BYTES, readJson, shapeFault } from './read-json.ts';

const sent = (body: string | ReadableStream<Uint8Array>): Request =>
  new Request('http://earmark.example/', { method: 'POST', body, duplex: 'half' } as RequestInit);

test('what is JSON of a size and shape that is taken comes as it is', async () => {
  const value = { a: [1, 'ü', { b: null }], 'c"\\[': '{"}[,,' };
  expect(await readJson(sent(JSON.stringify(value)))).toEqual(value);
});

test('a body of more bytes than are taken is refused while it comes, whatever it says of its size', async () => {
  let pulled = 0;
  const endless = new ReadableStream<Uint8Array>({
    pull(stream) {
      pulled++;
      stream.enqueue(new Uint8Array(1_000).fill(0x20));
    }
  });
  expect(await refusalsOf(readJson(sent(endless), 4_000))).toEqual(['413 request.too-large ']);
  expect(pulled).toBeLessThan(10);
});

test.each([
  ['brackets', '['.repeat(MOST_BYTES - 1)],
  ['braces', '{"a":'.repeat(3_000_000)],
  ['unknown keys', `{${Array.from({ length: 900_000 }, (_, n) => `"k${n}":1`).join(',')}}`],
  ['a string that never ends', `["${'\\"'.repeat(5_000_000)}`],
  ['no JSON', 'lines: []']
])('%s are refused at once', async (_, body) => {
  const begun = performance.now();
  expect((await refusalsOf(readJson(sent(body))))[0]).toMatch(/^400 request\.malformed/);
  const took = performance.now() - begun;
  // Not a measure of speed: before it took from seven to forty seconds.
  expect(took).toBeLessThan(5_000);
});

test('the shape is judged outside of strings only', () => {
  expect(shapeFault(JSON.stringify({ a: '['.repeat(100) }))).toBeNull();
  expect(shapeFault(JSON.stringify({ a: `\\"${'{'.repeat(100)}` }))).toBeNull();
  expect(shapeFault(`${'['.repeat(41)}${']'.repeat(41)}`)).toContain('40 levels');
  expect(shapeFault(`${'['.repeat(40)}${']'.repeat(40)}`)).toBeNull();
  // A list may be long, an object may not; one after the other is neither.
  expect(shapeFault(JSON.stringify(Array.from({ length: 30_000 }, () => ({ a: 1 }))))).toBeNull();
});
