import fc from 'fast-check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Tx } from '../../kernel/db/client.ts';
import { makeWorld, type World } from '../../testing/world.ts';
import { copyRows } from './copy-rows.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld({ max: 2 });
});
afterAll(() => world.end());

const inTransaction = <T>(work: (tx: Tx) => Promise<T>): Promise<T> =>
  world.sql.begin('READ ONLY', work) as Promise<T>;

it('reads numerics as the database writes them, whatever their size and places (property)', async () => {
  const amounts = fc
    .sample(
      fc.tuple(
        fc.boolean(),
        fc.bigInt({ min: 0n, max: 999_999_999_999n }),
        fc.integer({ min: 0, max: 999_999 })
      ),
      { numRuns: 400, seed: 7 }
    )
    .map(([minus, whole, part]) => `${minus ? '-' : ''}${whole}.${String(part).padStart(6, '0')}`);
  const seen: (number | bigint)[] = [];
  await inTransaction(async (tx) => {
    await copyRows(
      tx,
      `SELECT v::numeric(18, 6) FROM (VALUES ${[...amounts, '0', '1', '0.000001', '10000', '9999.9999', '-0.5'].map((text) => `('${text}')`).join(', ')}) t (v)`,
      (row) => seen.push(row.numeric(0, 6))
    );
  });
  const exact = (text: string) => {
    const [whole, part = ''] = text.replace('-', '').split('.');
    return BigInt(whole! + part.padEnd(6, '0')) * (text.startsWith('-') ? -1n : 1n);
  };
  expect(seen.map(BigInt)).toEqual(
    [...amounts, '0', '1', '0.000001', '10000', '9999.9999', '-0.5'].map(exact)
  );
});

it('reads whole numbers, nulls, texts beyond ASCII, instants and shares', async () => {
  const seen: unknown[][] = [];
  await inTransaction(async (tx) => {
    await copyRows(
      tx,
      `SELECT 2147483647::int4, NULL::int4, 'Zurück · 部品'::text, '2026-02-28 23:59:59.123456+00'::timestamptz, 0.333333333333::numeric(18, 12), NULL::numeric`,
      (row) =>
        seen.push([
          row.int(0),
          row.int(1),
          row.isNull(1),
          row.text(2),
          row.long(3),
          row.numeric(4, 12),
          row.isNull(5)
        ])
    );
  });
  // Microseconds from 2000-01-01, as PostgreSQL counts them.
  expect(seen).toEqual([
    [
      2_147_483_647,
      0,
      true,
      'Zurück · 部品',
      (Date.UTC(2026, 1, 28, 23, 59, 59) - Date.UTC(2000, 0, 1)) * 1000 + 123_456,
      333_333_333_333,
      true
    ]
  ]);
});

it('loses no row where pieces of the stream break in the middle of one, and leaves its connection in use', async () => {
  await inTransaction(async (tx) => {
    for (const count of [0, 1, 5_000, 120_000]) {
      let sum = 0;
      expect(
        await copyRows(
          tx,
          `SELECT g::int4, repeat('x', g % 97) FROM generate_series(1, ${count}) g`,
          (row) => {
            sum += row.int(0);
            if (row.text(1).length !== row.int(0) % 97)
              throw new Error(`row ${row.int(0)} is broken`);
          }
        )
      ).toBe(count);
      expect(sum).toBe((count * (count + 1)) / 2);
    }
    // What hung while streams were paused at their end.
    const [row] = await tx<{ one: number }[]>`SELECT 1 AS one`;
    expect(row!.one).toBe(1);
  });
});

it('a statement that cannot be copied fails in words, and a row that cannot be taken stops it', async () => {
  await expect(
    inTransaction((tx) => copyRows(tx, 'SELECT nothing FROM nowhere', () => {}))
  ).rejects.toThrow(/nowhere/);
  await expect(
    inTransaction((tx) =>
      copyRows(tx, 'SELECT 1::int4', () => {
        throw new Error('too much');
      })
    )
  ).rejects.toThrow('too much');
});
