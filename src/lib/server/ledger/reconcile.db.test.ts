import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { goodsReturn, pack } from '../shipping/kinds.ts';
import { repack, teardown } from '../making/kinds.ts';
import { move } from '../stock/kinds.ts';
import { quality } from '../quality/kinds.ts';
import { putProduct } from '../catalogue/products.ts';
import { Order } from '../orders/schemas.ts';
import { putOrder } from '../orders/write-order.ts';
import { receive } from '../receiving/kinds.ts';
import { bookThroughLevels, makeWorld, type World } from '../testing/world.ts';
import type { Tx } from '../kernel/db/client.ts';
import { reverse } from './kinds.ts';
import { findBreaks, reconcile } from './reconcile.ts';

// Somebody with the owner's password rewrites the past, past every trigger and constraint.
let world: World;
const id: Record<string, number> = {};
beforeAll(async () => {
  world = await makeWorld();
  await bookEverything();
  const marks = await world.sql<{ id: number; number: string }[]>`
    SELECT m.id, m.number
    FROM mark m
      JOIN product p ON p.id = m.product_id
    WHERE m.number IS NOT NULL AND (p.code, m.number) <> ('MADELOT', 'L')
  `;
  for (const mark of marks) id[mark.number] = mark.id;
  const events = await world.sql<{ id: number; kind: string }[]>`
    SELECT DISTINCT ON (kind) id, kind FROM event ORDER BY kind, id
  `;
  for (const event of events) id[event.kind] = event.id;
  const [dock] = await world.sql<{ id: number }[]>`SELECT id FROM place WHERE code = 'DOCK'`;
  id.dock = dock!.id;
});
afterAll(() => world.end());

async function bookEverything(): Promise<void> {
  for (const code of ['LOT', 'MADELOT'])
    await putProduct(world.sql, code, {
      ...{ name: code, unit: 'each', decimals: 3, made: code === 'MADELOT' },
      ...{ marking: 'lot', netWeightKg: '1' }
    });
  await bookThroughLevels(world);
  await world.receive('LOT', [{ lot: 'L' }], '20');
  const said = { reason: 'a test' };
  const lot = (quantity: string) => ({ product: 'LOT', lot: 'L', quantity });
  await world.book(move, {
    ...{ document: 'M', kind: 'move' },
    lines: [{ ...lot('5'), from: 'DOCK', to: 'RACK' }]
  });
  for (const kind of ['hold', 'release'] as const)
    await world.book(quality, {
      ...{ document: 'Q', kind, ...said },
      marks: [{ product: 'LOT', lot: 'L' }]
    });
  await world.book(repack, {
    ...{ document: 'RP', place: 'DOCK', ...said },
    groups: [{ sources: [lot('2')], results: [{ ...lot('2'), product: 'MADELOT' }] }]
  } as never);
  await world.book(teardown, {
    ...{ document: 'TD', place: 'LINE', ...said },
    units: [
      { product: 'MADE', serial: 'U2', parts: [{ product: 'SIL', lot: 'CYL', serial: 'C2' }] }
    ]
  } as never);
  await world.book(pack, {
    ...{ document: 'PK', kind: 'pack', units: [] },
    lines: [lot('3')]
  });
  await world.ship([{ product: 'LOT', marks: [{ lot: 'L', quantity: '4' }] }]);
  await world.book(goodsReturn, { ...{ document: 'RMA', place: 'DOCK' }, lines: [lot('1')] });
  await putOrder(
    world.sql,
    world.actor,
    'purchase',
    'PO-1',
    Order.parse({ partner: 'SUP', due: '2030-01-01', lines: [{ product: 'LOT', quantity: '9' }] })
  );
  await world.book(receive, {
    ...{ document: 'PO-1', supplier: 'SUP' },
    lines: [{ product: 'LOT', place: 'DOCK', quantity: '2', marks: [{ lot: 'ORDERED' }] }]
  });
  const mistaken = await world.receive('LOT', [{ lot: 'GONE' }], '7');
  await world.book(reverse, { document: 'X', event: mistaken.event.id, ...said });
}

/** What reconcile says after a corruption that is then undone. */
async function planted(corrupt: (tx: Tx) => Promise<unknown>): Promise<string[]> {
  let laws: string[] = [];
  const undo = new Error('undone');
  await world.owner
    .begin(async (tx) => {
      await tx`SET LOCAL session_replication_role = replica`;
      await corrupt(tx);
      laws = (await findBreaks(tx)).map((one) => one.law);
      throw undo;
    })
    .catch((error) => {
      if (error !== undo) throw error;
    });
  return [...new Set(laws)];
}

const CORRUPTIONS: [what: string, law: string, corrupt: (tx: Tx) => Promise<unknown>][] = [
  [
    'stock raised',
    'law 3',
    (tx) => tx`UPDATE stock SET quantity = quantity + 1 WHERE mark_id = ${id.L!}`
  ],
  [
    'stock that lasts longer than its lot',
    'stock says what its mark says',
    (tx) => tx`UPDATE stock SET expires_on = '2099-01-01' WHERE mark_id = ${id.L!}`
  ],
  ['a stock row gone', 'law 3', (tx) => tx`DELETE FROM stock WHERE mark_id = ${id.L!}`],
  [
    'a movement gone, stock fitted to it',
    'every product balances',
    (tx) => tx`
      WITH gone AS (DELETE FROM movement WHERE event_id = ${id.build!} AND quantity < 0 RETURNING *)
      UPDATE stock s SET quantity = s.quantity - g.quantity
      FROM (SELECT mark_id, place_id, sum(quantity) AS quantity FROM gone GROUP BY 1, 2) g
      WHERE s.mark_id = g.mark_id AND s.place_id = g.place_id
    `
  ],
  [
    'a serial that came twice',
    'laws 1 and 2',
    (tx) => tx`UPDATE movement SET quantity = 2 WHERE mark_id = ${id.C3!}`
  ],
  [
    'more shipped than there was',
    'laws 1 and 2',
    (tx) =>
      tx`UPDATE movement SET quantity = -100 WHERE event_id = ${id.ship!} AND mark_id = ${id.RESIN!}`
  ],
  [
    'a move that makes something',
    'carrying keeps amounts',
    (tx) => tx`UPDATE movement SET quantity = 6 WHERE event_id = ${id.move!} AND quantity > 0`
  ],
  [
    'a receipt that takes',
    'a kind moves its own way',
    (tx) => tx`UPDATE movement SET quantity = -quantity WHERE event_id = ${id.receive!}`
  ],
  [
    'an input swapped for another lot',
    'what is tied is what moved',
    (tx) => tx`UPDATE transformation_input SET mark_id = ${id.L!} WHERE mark_id = ${id.RESIN!}`
  ],
  [
    'an input left out',
    'what is tied is what moved',
    (tx) => tx`DELETE FROM transformation_input WHERE mark_id = ${id.C1!}`
  ],
  [
    'outputs left out',
    'a tie has an output',
    (tx) => tx`DELETE FROM transformation_output WHERE mark_id = ${id.U1!}`
  ],
  [
    'a repack that gains weight',
    'law 8',
    (tx) => tx`
      UPDATE transformation_output SET quantity = 3
      WHERE transformation_id IN (SELECT id FROM transformation WHERE event_id = ${id.repack!})
    `
  ],
  [
    'a build taken back that nobody took back',
    'a tie is taken back',
    (tx) => tx`
      INSERT INTO transformation_reversed (transformation_id, event_id)
      SELECT min(id), ${id.scrap!} FROM transformation
    `
  ],
  [
    'a reversal of less',
    'a reversal mirrors its event',
    (tx) => tx`UPDATE movement SET quantity = -6 WHERE event_id = ${id.reversal!}`
  ],
  [
    'a part that comes out twice',
    'law 10',
    (tx) => tx`
      UPDATE transformation_output SET quantity = 2
      WHERE mark_id = ${id.C2!}
        AND transformation_id IN (SELECT id FROM transformation WHERE event_id = ${id.teardown!})
    `
  ],
  [
    'a part removed that was never in it',
    'law 10',
    (tx) => tx`
      INSERT INTO removal (component_id, host_id, quantity, event_id)
      VALUES (${id.C3!}, ${id.U1!}, 1, ${id.teardown!})
    `
  ],
  [
    'a hold wiped out',
    'a mark says its last change',
    (tx) => tx`UPDATE mark SET state = 'held' WHERE id = ${id.L!}`
  ],
  [
    'a decision taken out of the middle',
    'a change begins where the last one ended',
    (tx) => tx`UPDATE mark_change SET old_value = 'rejected' WHERE event_id = ${id.release!}`
  ],
  [
    'a state without a decision',
    'a state has its decision',
    (tx) => tx`UPDATE mark SET state = 'held' WHERE id = ${id.U1!}`
  ],
  [
    'a serial put into a lot of something else',
    'a serial is within a lot',
    (tx) => tx`UPDATE mark SET lot_id = ${id.L!} WHERE id = ${id.C1!}`
  ],
  [
    'a birth moved to later',
    'nothing happens before birth',
    (tx) => tx`UPDATE mark SET birth_event = ${id.reversal!} WHERE id = ${id.C1!}`
  ],
  [
    'half a serial',
    'amounts are as their product is counted',
    (tx) => tx`UPDATE movement SET quantity = 0.5 WHERE mark_id = ${id.C3!}`
  ],
  ['a carton emptied', 'a carton holds', (tx) => tx`UPDATE unit_content SET quantity = 0`],
  [
    'a carton said to have left',
    'a carton has left',
    (tx) => tx`UPDATE unit_content SET shipped = true`
  ],
  [
    'more back than left',
    'no more comes back than left',
    (tx) => tx`UPDATE returned SET quantity = 5`
  ],
  ['a return of no shipment', 'a return names its shipments', (tx) => tx`DELETE FROM returned`],
  [
    'more received for an order than came',
    'orders are as booked',
    (tx) => tx`UPDATE order_booked SET done = done + 1`
  ],
  [
    'an order that nobody is told of',
    'orders wait while they lack something',
    (tx) => tx`DELETE FROM waiting_order`
  ]
];

describe('reconcile', () => {
  it('finds nothing where nothing is wrong', async () => {
    expect((await reconcile(world.sql)).breaks).toEqual([]);
  });
  it.each(CORRUPTIONS)('finds %s', async (_, law, corrupt) => {
    const found = await planted(corrupt);
    expect(
      found.find((one) => one.startsWith(law)),
      JSON.stringify(found)
    ).toBeDefined();
  });
});
