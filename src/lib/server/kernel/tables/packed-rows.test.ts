import fc from 'fast-check';
import { expect, test } from 'vitest';
import { packRows, unpackRows } from './packed-rows.ts';

test('what is packed comes out as it went in, whatever stands in a cell', async () => {
  const row = fc.record({ a: fc.string({ unit: 'grapheme' }), b: fc.string() });
  await fc.assert(
    fc.asyncProperty(fc.array(row), async (rows) => {
      expect(unpackRows(['a', 'b'], await packRows(['a', 'b'], rows))).toEqual(rows);
    })
  );
});

test('a missing cell is an empty one, and others are served in between', async () => {
  let served = 0;
  const timer = setInterval(() => served++, 0);
  const rows = Array.from({ length: 20_000 }, (_, n) => ({ a: String(n) }));
  const packed = await packRows(['a', 'b'], rows);
  clearInterval(timer);
  expect(served).toBeGreaterThan(0);
  const out = unpackRows(['a', 'b'], packed);
  expect([out.length, out[19_999]]).toEqual([20_000, { a: '19999', b: '' }]);
});
