import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readProductUses, stillToMake } from '../catalogue/product-uses.ts';
import { putProduct } from '../catalogue/products.ts';
import { putOrder } from '../orders/write-order.ts';
import { bookThroughLevels, makeWorld, type World } from '../testing/world.ts';
import { readPlacePage } from './place-page.ts';

let world: World;
const order = (kind: 'purchase' | 'work' | 'sales', number: string, due: string, lines: object[]) =>
  putOrder(world.sql, world.actor, kind, number, {
    ...(kind === 'work' ? {} : { partner: kind === 'sales' ? 'CUS' : 'SUP' }),
    ...{ due, note: '', lines }
  } as never);

beforeAll(async () => {
  world = await makeWorld();
  await bookThroughLevels(world);
  await putProduct(world.sql, 'MADE', {
    ...{ name: 'made', unit: 'each', decimals: 0, made: true, marking: 'serial' },
    components: [
      { product: 'SIL', quantity: '1' },
      { product: 'BULK', quantity: '2' }
    ]
  });
  await order('work', 'WO-1', '2030-01-02', [{ product: 'MADE', quantity: '5' }]);
  await order('work', 'WO-2', '2030-01-01', [{ product: 'MADE', quantity: '2.0' }]);
  await order('sales', 'SO-1', '2030-03-01', [{ product: 'MADE', quantity: '4' }]);
});
afterAll(() => world.end());

describe('what depends on a product', () => {
  it('are its stock, its marks and the orders that wait, those due first', async () => {
    const uses = await readProductUses(world.sql, 'made');
    const [plain] = await world.sql<{ quantity: string; lie: number; marks: number }[]>`
      SELECT sum(s.quantity) FILTER (WHERE s.quantity > 0)::text AS quantity,
        count(DISTINCT s.mark_id) FILTER (WHERE s.quantity > 0)::int AS lie,
        count(DISTINCT m.id)::int AS marks
      FROM product p
        JOIN mark m ON m.product_id = p.id
        LEFT JOIN stock s ON s.mark_id = m.id
      WHERE p.code = 'MADE'
    `;
    expect(Number(uses.onHand.quantity)).toBe(Number(plain!.quantity));
    expect([uses.onHand.marks, uses.marks]).toEqual([plain!.lie, plain!.marks]);
    expect(uses.orders.rows.map((row) => [row.number, row.ordered, row.partner])).toEqual([
      ['WO-2', '2', null],
      ['WO-1', '5', null],
      ['SO-1', '4', 'Customer']
    ]);
    expect(uses.orders.total).toBe(3);
  });

  it('are the bills it goes into', async () => {
    expect((await readProductUses(world.sql, 'SIL')).bills).toBe(1);
    expect((await readProductUses(world.sql, 'MADE')).bills).toBe(0);
  });

  it('is nothing for one that was only just set up', async () => {
    const fresh = { name: 'new', unit: 'each', decimals: 0, made: false, marking: 'lot' as const };
    await putProduct(world.sql, 'FRESH', fresh);
    expect(await readProductUses(world.sql, 'FRESH')).toEqual({
      ...{ onHand: { quantity: '0', marks: 0 }, marks: 0, orders: { rows: [], total: 0 } },
      ...{ bills: 0, spec: null, ownSpecs: 0, route: null }
    });
  });

  it('are work orders that still make it: what is built is no longer asked', async () => {
    expect(await stillToMake(world.sql, 'MADE')).toBe('7');
    expect(await stillToMake(world.sql, 'SIL')).toBeNull();
  });
});

describe('a place', () => {
  it('says what lies there by product, and nothing of what is gone', async () => {
    const page = (await readPlacePage(world.sql, 'dock'))!;
    const plain = await world.sql<{ product: string; marks: number; quantity: string }[]>`
      SELECT p.code AS product, count(*)::int AS marks, sum(s.quantity)::text AS quantity
      FROM stock s
        JOIN place c ON c.id = s.place_id AND c.code = 'DOCK'
        JOIN mark m ON m.id = s.mark_id
        JOIN product p ON p.id = m.product_id
      WHERE s.quantity > 0
      GROUP BY p.code
      ORDER BY count(*) DESC, p.code
    `;
    expect(plain.length).toBeGreaterThan(0);
    expect(page.there.rows.map((row) => [row.product, row.marks, Number(row.quantity)])).toEqual(
      plain.map((row) => [row.product, row.marks, Number(row.quantity)])
    );
    expect(page.there.total).toBe(plain.length);
    expect(page.exactness).toMatchObject({ counts: [], countedOn: null });
  });

  it('that nobody set up has no page', async () =>
    expect(await readPlacePage(world.sql, 'NOWHERE')).toBeNull());
});
