import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import { allotNumbers, putScheme, readSchemes } from './numbering.ts';
import { putProduct } from './products.ts';

let world: World;
const NOW = new Date('2026-11-23T09:30:00Z');
const SERIALS = {
  name: 'serials',
  reset: 'never' as const,
  segments: [
    { kind: 'text' as const, text: 'N' },
    { kind: 'counter' as const, width: 5, letters: false }
  ]
};
const ask = (
  count: number,
  key = newKey(),
  product = 'NUM',
  kind: 'lot' | 'serial' = 'serial',
  now = NOW
) => allotNumbers(world.sql, world.actor, key, { product, kind, count }, now);

beforeAll(async () => {
  world = await makeWorld();
  await putScheme(world.sql, 'SERIALS', SERIALS);
  await putScheme(world.sql, 'DAILY', {
    name: 'lots of the day',
    reset: 'day',
    segments: [
      { kind: 'date' },
      { kind: 'text', text: '-' },
      { kind: 'counter', width: 1, letters: false }
    ]
  });
  await putProduct(world.sql, 'NUM', {
    name: 'numbered',
    unit: 'each',
    decimals: 0,
    made: false,
    marking: 'serial-in-lot',
    serialScheme: 'serials',
    lotScheme: 'DAILY'
  });
});
afterAll(() => world.end());

describe('blocks of numbers', () => {
  it('are given once each to twenty who ask at the same moment', async () => {
    const blocks = await Promise.all(Array.from({ length: 20 }, () => ask(50)));
    const all = blocks.flatMap((block) => block.numbers);
    expect(all).toHaveLength(1000);
    expect(new Set(all).size).toBe(1000);
    expect(all.sort()).toEqual(
      Array.from({ length: 1000 }, (_, i) => `N${String(i + 1).padStart(5, '0')}`)
    );
  });

  it('skip numbers typed by hand, whatever their capitals', async () => {
    await world.receive('NUM', [
      { lot: 'X', serial: 'n01002' },
      { lot: 'X', serial: 'N01003' }
    ]);
    expect((await ask(3)).numbers).toEqual(['N01001', 'N01004', 'N01005']);
  });

  it('are the same when asked for again under the same key, to twenty at once', async () => {
    const key = newKey();
    const blocks = await Promise.all(Array.from({ length: 20 }, () => ask(2, key)));
    expect(blocks.filter((block) => block.fresh)).toHaveLength(1);
    expect(new Set(blocks.map((block) => block.numbers.join())).size).toBe(1);
    await expect(ask(3, key)).rejects.toMatchObject({ status: 409 });
  });

  it('begin anew with the period, and say when a counter is full, giving none', async () => {
    expect((await ask(9, newKey(), 'NUM', 'lot')).numbers.at(-1)).toBe('261123-9');
    await expect(ask(1, newKey(), 'NUM', 'lot')).rejects.toMatchObject({
      status: 422,
      errors: [{ message: expect.stringContaining('counter of 1 places is full') }]
    });
    expect(
      (await ask(1, newKey(), 'NUM', 'lot', new Date('2026-11-24T09:30:00Z'))).numbers
    ).toEqual(['261124-1']);
    expect(
      (await readSchemes(world.sql, '2026-11-23')).find((scheme) => scheme.code === 'DAILY')
    ).toMatchObject({ last: 9, products: ['NUM'] });
  });

  it('can only be asked of a product that has a scheme', async () => {
    await expect(ask(1, newKey(), 'SER')).rejects.toMatchObject({
      status: 422,
      errors: [{ code: 'mark.missing' }]
    });
    await expect(ask(1, newKey(), 'NOPE')).rejects.toMatchObject({ status: 404 });
  });
});

describe('schemes', () => {
  it('are refused in words when numbers could repeat', async () => {
    await expect(putScheme(world.sql, 'BAD', { ...SERIALS, reset: 'day' })).rejects.toMatchObject({
      status: 422,
      errors: [{ message: expect.stringContaining('must hold the date') }]
    });
    await expect(
      putScheme(world.sql, 'BAD', {
        ...SERIALS,
        segments: [...SERIALS.segments, { kind: 'check', method: 'mod10' }]
      })
    ).rejects.toMatchObject({
      status: 422,
      errors: [{ message: expect.stringContaining('digits only') }]
    });
  });
  it('fit the marking of their product', () =>
    expect(
      putProduct(world.sql, 'BULK', {
        name: 'bulk',
        unit: 'each',
        decimals: 0,
        made: false,
        marking: 'none',
        lotScheme: 'SERIALS'
      })
    ).rejects.toMatchObject({ status: 422 }));
  it('count only upwards, whoever tries', async () => {
    await expect(world.sql`UPDATE numbering_counter SET last = 1`).rejects.toThrow('only goes up');
    await expect(world.owner`DELETE FROM number_block`).rejects.toThrow('append-only');
  });
});

describe('a counter that another system began', () => {
  const counted = async (code: string): Promise<number> =>
    (await readSchemes(world.sql, '2026-11-23')).find((one) => one.code === code)!.last;

  it('goes on where that stopped', async () => {
    await putScheme(world.sql, 'TAKEN-OVER', { ...SERIALS, next: 4183 });
    expect(await counted('TAKEN-OVER')).toBe(4182);
  });

  it('stays where it is when nothing is said of it', async () => {
    await putScheme(world.sql, 'TAKEN-OVER', { ...SERIALS, name: 'renamed' });
    expect(await counted('TAKEN-OVER')).toBe(4182);
  });

  it('may be told what it counts next anyway, also before its first number', async () => {
    await putScheme(world.sql, 'TAKEN-OVER', { ...SERIALS, next: 4183 });
    await putScheme(world.sql, 'NOT-BEGUN', { ...SERIALS, next: 1 });
    expect([await counted('TAKEN-OVER'), await counted('NOT-BEGUN')]).toEqual([4182, 0]);
  });

  it('never goes back, and then nothing of the scheme is changed', async () => {
    const back = putScheme(world.sql, 'TAKEN-OVER', { ...SERIALS, name: 'lost', next: 4182 });
    await expect(back).rejects.toMatchObject({
      status: 422,
      errors: [{ path: 'next', message: expect.stringContaining('counted to 4182') as string }]
    });
    const scheme = (await readSchemes(world.sql, '2026-11-23')).find(
      (one) => one.code === 'TAKEN-OVER'
    );
    expect(scheme).toMatchObject({ name: SERIALS.name, last: 4182 });
  });
});
