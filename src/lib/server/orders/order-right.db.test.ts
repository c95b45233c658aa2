import { afterAll, beforeAll, expect, test } from 'vitest';
import type { Role } from '../../core/people/rights.ts';
import { refusalsOf } from '../testing/caught.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { announce } from './announced.ts';
import { importOrders } from './import-orders.ts';
import { putOrder, setOrderClosed, setSerialsLater } from './write-order.ts';
import { Order, type OrderKind } from './schemas.ts';

// Each kind of order is changed by whoever books against it, by whatever way they come.
let world: World;
beforeAll(async () => {
  world = await makeWorld();
  await putOrder(world.sql, world.actor, 'purchase', 'PO-1', orderOf('purchase'));
  await putOrder(world.sql, world.actor, 'sales', 'SO-1', orderOf('sales'));
});
afterAll(() => world.end());

const orderOf = (kind: OrderKind) =>
  Order.parse({
    ...(kind === 'work' ? {} : { partner: kind === 'purchase' ? 'SUP' : 'CUS' }),
    due: '2030-01-01',
    lines: [{ product: kind === 'work' ? 'MADE' : 'SER', quantity: '3' }]
  });
const as = (...roles: Role[]) => ({ ...world.actor, roles });
const WHO: [Role, OrderKind][] = [
  ['receiver', 'purchase'],
  ['builder', 'work'],
  ['shipper', 'sales']
];

test.each(WHO)('%s enters and closes %s orders and no others', async (role, own) => {
  for (const kind of ['purchase', 'work', 'sales'] as const) {
    const number = `${role}-${kind}`;
    const entered = putOrder(world.sql, as(role), kind, number, orderOf(kind));
    const closed = async () => setOrderClosed(world.sql, as(role), kind, number, true);
    if (kind === own) {
      await entered;
      await closed();
    } else {
      expect(await refusalsOf(entered)).toEqual(['403 right.missing ']);
      expect(await refusalsOf(closed())).toEqual(['403 right.missing ']);
    }
  }
});

test('announced numbers are a receiver’s to change, late serials a shipper’s', async () => {
  const announced = { lines: [{ line: 1, marks: [{ serial: 'A-1' }] }] };
  const byShipper = announce(world.sql, as('shipper'), 'PO-1', announced);
  expect(await refusalsOf(byShipper)).toEqual(['403 right.missing ']);
  expect(await announce(world.sql, as('receiver'), 'PO-1', announced)).toEqual({ announced: 1 });
  const byReceiver = setSerialsLater(world.sql, as('receiver'), 'SO-1', true);
  expect(await refusalsOf(byReceiver)).toEqual(['403 right.missing ']);
  await setSerialsLater(world.sql, as('shipper'), 'SO-1', true);
});

test('a file brings in what its sender may enter, and nothing else', async () => {
  const csv = Buffer.from('order,partner,due,product,quantity\nF-1,CUS,2030-01-01,SER,3\n');
  const brought = importOrders(world.sql, as('receiver'), 'sales', csv, 'write');
  expect(await refusalsOf(brought)).toEqual(['403 right.missing ']);
  const [row] = await world.sql`SELECT FROM trade_order WHERE number = 'F-1'`;
  expect(row).toBeUndefined();
});
