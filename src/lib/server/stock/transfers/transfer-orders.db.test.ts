import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { putPlace } from '../../catalogue/partners-places.ts';
import { reverse } from '../../ledger/kinds.ts';
import type { BookedAnswer } from '../../ledger/book.ts';
import { refusalsOf } from '../../testing/caught.ts';
import { makeWorld, newKey, type World } from '../../testing/world.ts';
import { pack } from '../../shipping/kinds.ts';
import { transferNotePdf } from '../papers/transfer-note.ts';
import { arrive, dispatch } from './book-transfer.ts';
import { closeTransferOrder, orderTransfer } from './order-transfer.ts';
import { proposeTransfer } from './propose-transfer.ts';
import { readTransferOrder } from './read-order.ts';
import { listTransfers } from './read-transfers.ts';
import { readTransferHead } from './transfer-head.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
  await putPlace(world.sql, 'FAR', { name: 'far', site: 'S2' });
});
afterAll(() => world.end());

const order = (document: string, lines: { product: string; quantity: string }[], due?: string) =>
  orderTransfer(world.sql, world.actor, document, {
    from: 'S1',
    to: 'S2',
    due: due ?? null,
    note: '',
    lines
  });
const leave = async (document: string, lot: string, quantity: string): Promise<BookedAnswer> => {
  const lines = [{ product: 'LOT', place: 'RACK', marks: [{ lot, quantity }] }];
  const given = { document, from: 'S1', to: 'S2', lines };
  const { answer } = await dispatch(world.sql, world.actor, newKey(), given);
  return JSON.parse(answer) as BookedAnswer;
};
const come = (document: string, lot: string, quantity: string) =>
  arrive(world.sql, world.actor, newKey(), document, {
    place: 'FAR',
    lines: [{ product: 'LOT', marks: [{ lot, quantity }] }],
    short: 'wait'
  });
const head = (document: string) => readTransferHead(world.sql, document);
/** Of each product what was ordered, has left, has arrived, and is still to leave. */
const progress = async (document: string) => {
  const { lines } = (await readTransferOrder(world.sql, await head(document)))!;
  return lines.map((one) => [one.product, one.quantity, one.gone, one.arrived, one.left].join(' '));
};
const listed = async (document: string) =>
  (await listTransfers(world.sql)).rows.find((row) => row.document === document);

describe('a transfer ordered ahead', () => {
  it('stands as to send until all of it has left, in parts; what is taken back is to leave again', async () => {
    await world.receive('LOT', [{ lot: 'A1' }], '10', 'RACK');
    await order('TO-1', [{ product: 'LOT', quantity: '6' }], '2090-12-01');
    expect(await listed('TO-1')).toMatchObject({ toLeave: 1, due: '2090-12-01', marks: 0 });
    await leave('TO-1', 'A1', '4');
    expect(await progress('TO-1')).toEqual(['LOT 6 4 0 2']);
    await come('TO-1', 'A1', '3');
    const rest = await leave('TO-1', 'A1', '2');
    expect(await progress('TO-1')).toEqual(['LOT 6 6 3 0']);
    expect(await listed('TO-1')).toMatchObject({ toLeave: 0, marks: 1 });
    const back = { document: 'TO-1', event: rest.event.id, reason: 'wrong lorry' };
    await world.book(reverse, back);
    expect(await progress('TO-1')).toEqual(['LOT 6 4 3 2']);
  });

  it('may be changed until something has left, closed when the rest will not be sent, and opened again', async () => {
    await world.receive('LOT', [{ lot: 'A2' }], '5', 'RACK');
    expect(await order('TO-2', [{ product: 'LOT', quantity: '9' }])).toMatchObject({
      created: true
    });
    expect(await order('TO-2', [{ product: 'LOT', quantity: '5' }])).toMatchObject({
      created: false
    });
    await leave('TO-2', 'A2', '1');
    expect(await refusalsOf(order('TO-2', [{ product: 'LOT', quantity: '8' }]))).toEqual([
      '409 order.closed document'
    ]);
    await closeTransferOrder(world.sql, world.actor, 'TO-2', true);
    expect(await listed('TO-2')).toMatchObject({ toLeave: 0 });
    expect(await refusalsOf(leave('TO-2', 'A2', '1'))).toEqual(['409 order.closed document']);
    await closeTransferOrder(world.sql, world.actor, 'TO-2', false);
    await leave('TO-2', 'A2', '1');
    expect(await progress('TO-2')).toEqual(['LOT 5 2 0 3']);
  });

  it('proposes what is free at its site, soonest to expire first, and leaves cartons whole', async () => {
    await world.receive('LOT', [{ lot: 'A3', expires: '2090-05-01' }], '3', 'RACK');
    await world.receive('LOT', [{ lot: 'A4', expires: '2090-02-01' }], '2', 'RACK');
    await world.receive('LOT', [{ lot: 'A5', expires: '2090-01-01' }], '2', 'RACK');
    await world.receive('LOT', [{ lot: 'A6', expires: '2090-01-01' }], '2', 'FAR');
    const packed = [{ product: 'LOT', lot: 'A5', quantity: '1' }];
    await world.book(pack, { document: 'P', kind: 'pack', lines: packed, units: [] });
    await order('TO-3', [
      { product: 'LOT', quantity: '4' },
      { product: 'SER', quantity: '2' }
    ]);
    const { rows, short } = await proposeTransfer(world.sql, await head('TO-3'));
    expect(rows.slice(0, 2).map((row) => [row.number, row.from, row.take])).toEqual([
      ['A4', 'RACK', '2'],
      ['A3', 'RACK', '2']
    ]);
    expect(short).toEqual([{ product: 'SER', quantity: '2' }]);
    const note = await transferNotePdf(world.sql, 'TO-3');
    expect(Buffer.from(note.slice(0, 5)).toString()).toBe('%PDF-');
  });

  it('sent by two at once both count; ordered by two at once it is one', async () => {
    await world.receive('LOT', [{ lot: 'A7' }], '8', 'RACK');
    const lines = [{ product: 'LOT', quantity: '8' }];
    const made = await Promise.all([order('TO-4', lines), order('TO-4', lines)]);
    expect(made.map((one) => one.created).sort()).toEqual([false, true]);
    await Promise.all([leave('TO-4', 'A7', '3'), leave('TO-4', 'A7', '3')]);
    expect(await progress('TO-4')).toEqual(['LOT 8 6 0 2']);
  });

  it('is refused with everything that is wrong, and nothing of it is left behind', async () => {
    const wrong = [
      { product: 'LOT', quantity: '0' },
      { product: 'NONE', quantity: '1' },
      { product: 'lot', quantity: '1' }
    ];
    expect(await refusalsOf(order('TO-5', wrong))).toEqual([
      '422 quantity.mismatch lines[0].quantity',
      '422 product.unknown lines[1].product',
      '422 mark.duplicate lines[2].product'
    ]);
    expect(await listed('TO-5')).toBeUndefined();
    const close = closeTransferOrder(world.sql, world.actor, 'TO-5', true);
    expect(await refusalsOf(close)).toEqual(['404 transfer.unknown code']);
  });
});
