import { performance } from 'node:perf_hooks';
import { expect, test } from 'vitest';
import { refusalsOf } from '../testing/caught.ts';
import { MOST_BYTES, readJson } from './read-json.ts';

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

test('others are served while something large is read', async () => {
  let turns = 0;
  let isRead = false;
  const count = (): void => {
    turns++;
    if (!isRead) setImmediate(count);
  };
  setImmediate(count);
  const lines = Array.from({ length: 100_000 }, (_, n) => ({ product: 'P', serial: `S-${n}` }));
  const before = turns;
  expect(await readJson(sent(JSON.stringify(lines)))).toHaveLength(100_000);
  isRead = true;
  // Four stretches of its shape at the least, and one between what was read and what is done with it.
  expect(turns - before).toBeGreaterThanOrEqual(5);
});
