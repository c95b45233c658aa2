import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { quality } from '../quality/kinds.ts';
import { keptCount } from '../kernel/db/kept-count.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { readOnHand, type OnHandRow } from './on-hand.ts';
import { countOnHandProducts, readOnHandPage, readOnHandProducts } from './on-hand-products.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
  const many = Array.from({ length: 30 }, (_, n) => ({ serial: `MANY-${n}` }));
  await world.receive('SER', many);
  await world.receive('SER', [{ serial: 'ELSEWHERE' }], '1', 'RACK');
  await world.receive(
    'LOT',
    [
      { lot: 'L-1', quantity: '5', expires: '2027-03-01' },
      { lot: 'L-2', quantity: '2.5', expires: '2027-01-31' }
    ],
    '7.5'
  );
  await world.receive('SIL', [
    { lot: 'CYL', serial: 'C1' },
    { lot: 'CYL', serial: 'C2' },
    { lot: 'DRUM', serial: 'D1', expires: '2028-05-05' }
  ]);
  await world.receive('BULK', [], '40');
  await holdLot('LOT', 'L-2');
  await holdLot('SIL', 'CYL');
  await world.owner`UPDATE mark SET expires_on = '2026-12-24' WHERE number = 'CYL'`;
});
afterAll(() => world.end());

const holdLot = (product: string, lot: string) =>
  world.book(quality, {
    document: `H-${lot}`,
    kind: 'hold',
    reason: 'dented',
    marks: [{ product, lot }]
  });

const CODES = ['BULK', 'LOT', 'SER', 'SIL'];

describe('what is on hand of products', () => {
  it('is what its rows add up to, one by one', async () => {
    const figures = await readOnHandProducts(world.sql, CODES);
    const rows = await readOnHand(world.sql, { products: CODES });
    expect(figures.map(({ code }) => code)).toEqual(CODES);
    for (const figure of figures) {
      const those = rows.filter(({ product }) => product === figure.code);
      expect(figure).toMatchObject(addedUp(those));
    }
  });

  it('has a serial held with its lot, and expired with it', async () => {
    const [sil] = await readOnHandProducts(world.sql, ['SIL']);
    expect(sil).toMatchObject({ quantity: '3', held: '2', soonest: '2026-12-24' });
  });

  it('is of what holds a text, and counted however little of it is listed', async () => {
    const [figures] = await readOnHandProducts(world.sql, ['SER'], 'MANY-');
    expect(figures).toMatchObject({ code: 'SER', quantity: '30', marks: 30, held: '0' });
    expect(await readOnHand(world.sql, { text: 'MANY-', most: 10 })).toHaveLength(10);
  });
});

/** The same figures by plain arithmetic over rows; their quantities have finite halves. */
function addedUp(rows: readonly OnHandRow[]) {
  const sum = (of: readonly OnHandRow[]) =>
    String(of.reduce((all, row) => all + Number(row.quantity), 0));
  const days = rows.flatMap(({ expires }) => expires ?? []).sort();
  const places = [...new Set(rows.map(({ place }) => place))].sort();
  return {
    quantity: sum(rows),
    held: sum(rows.filter(({ state }) => state !== 'usable')),
    soonest: days[0] ?? null,
    marks: new Set(rows.map(({ id }) => id)).size,
    places: places.length,
    placesNamed: places.slice(0, 3)
  };
}

describe('pages of products on hand', () => {
  it('have each product once, whatever a page takes, and only what is there', async () => {
    for (const most of [1, 2, CODES.length, 50]) {
      const seen: string[] = [];
      for (let more = true; more;) {
        const page = await readOnHandPage(world.sql, undefined, seen.at(-1) ?? '', most);
        seen.push(...page.codes);
        more = page.more;
      }
      expect(seen).toEqual(CODES);
    }
    const found = await readOnHandPage(world.sql, 'MANY-', '', 50);
    expect(found).toEqual({ codes: ['SER'], more: false });
    expect(await countOnHandProducts(world.sql, undefined)).toBe(CODES.length);
    expect(await countOnHandProducts(world.sql, 'MANY-')).toBe(1);
  });
});

describe('a count that is kept', () => {
  it('is counted again once something was booked, and not before', async () => {
    let counted = 0;
    const count = () => Promise.resolve(++counted);
    const ask = () => keptCount(world.sql, 'test', count, { freshMs: 0 });
    expect([await ask(), await ask()]).toEqual([1, 1]);
    await world.receive('BULK', [], '1');
    expect([await ask(), await ask()]).toEqual([2, 2]);
  });

  it('is as old as it may be while others book, and not asked for again meanwhile', async () => {
    let counted = 0;
    const ask = () =>
      keptCount(world.sql, 'busy', () => Promise.resolve(++counted), { freshMs: 600_000 });
    expect(await ask()).toBe(1);
    await world.receive('BULK', [], '1');
    expect(await ask()).toBe(1);
  });
});
