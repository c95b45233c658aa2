import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { reconcile } from '../ledger/reconcile.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import { reverse } from '../ledger/kinds.ts';
import { receive } from '../receiving/kinds.ts';
import { readOpenOrders } from './read-orders.ts';
import { Order } from './schemas.ts';
import { putOrder, setOrderClosed } from './write-order.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.end());

const ordered = (...lines: [product: string, quantity: string][]) =>
  Order.parse({
    partner: 'SUP',
    due: '2030-01-01',
    lines: lines.map(([product, quantity]) => ({ product, quantity }))
  });
const enter = (number: string, ...lines: [product: string, quantity: string][]) =>
  putOrder(world.sql, world.actor, 'purchase', number, ordered(...lines));
const bring = (order: string, product: string, quantity: string) =>
  world.book(receive, {
    document: order,
    supplier: 'SUP',
    lines: [{ product, place: 'DOCK', quantity, marks: [{ lot: newKey() }] }]
  });
const waiting = async (): Promise<Record<string, string>> => {
  const { rows } = await readOpenOrders(world.sql, 'purchase', '2026-01-01', 100);
  return Object.fromEntries(rows.map(({ number, left }) => [number, left]));
};

describe('an order waits', () => {
  it('from its entry until all of it is booked, and again when some is taken back', async () => {
    await enter('P-1', ['LOT', '5'], ['KG', '2']);
    expect(await waiting()).toMatchObject({ 'P-1': '7' });
    await bring('P-1', 'LOT', '5');
    expect(await waiting()).toMatchObject({ 'P-1': '2' });
    const { event } = await bring('P-1', 'KG', '2');
    expect(await waiting()).not.toHaveProperty('P-1');
    await world.book(reverse, { document: newKey(), event: event.id, reason: 'a test' });
    expect(await waiting()).toMatchObject({ 'P-1': '2' });
  });

  it('no more once it is closed, and again once it is opened', async () => {
    await enter('P-2', ['LOT', '5']);
    await setOrderClosed(world.sql, world.actor, 'purchase', 'P-2', true);
    expect(await waiting()).not.toHaveProperty('P-2');
    await setOrderClosed(world.sql, world.actor, 'purchase', 'P-2', false);
    expect(await waiting()).toMatchObject({ 'P-2': '5' });
  });

  it('by what is ordered now, where the order is changed', async () => {
    await enter('P-3', ['LOT', '5'], ['KG', '2']);
    await enter('P-3', ['LOT', '3']);
    expect(await waiting()).toMatchObject({ 'P-3': '3' });
    await bring('P-3', 'LOT', '3');
    expect(await waiting()).not.toHaveProperty('P-3');
  });

  it('not where two who bring the last of two products book at the same moment', async () => {
    const numbers = Array.from({ length: 12 }, (_, at) => `RACE-${at}`);
    for (const number of numbers) await enter(number, ['LOT', '1'], ['KG', '1']);
    await Promise.all(
      numbers.flatMap((number) => [bring(number, 'LOT', '1'), bring(number, 'KG', '1')])
    );
    const left = Object.keys(await waiting()).filter((number) => number.startsWith('RACE'));
    expect(left).toEqual([]);
  });

  it('as its movements say, whatever was booked', async () => {
    expect((await reconcile(world.sql)).breaks).toEqual([]);
  });

  it('and the application cannot say otherwise', async () => {
    const { sql } = world;
    await expect(sql`UPDATE order_booked SET done = 0`).rejects.toThrow(/permission denied/);
    await expect(sql`DELETE FROM waiting_order`).rejects.toThrow(/permission denied/);
    await expect(sql`SELECT keep_waiting(ARRAY[1::bigint])`).rejects.toThrow(/permission denied/);
  });
});
