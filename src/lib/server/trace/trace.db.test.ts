import { bfsFromNode } from 'graphology-traversal';
import { DirectedGraph } from 'graphology';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { quantity, total } from '../../core/quantity/quantity.ts';
import {
  bookThroughLevels,
  makeWorld,
  onHandByMovements,
  onHandByStock,
  type World
} from '../testing/world.ts';
import { randomBookings } from '../testing/random-bookings.ts';
import { findMarkId } from '../ledger/find-mark.ts';
import { traceMark } from './trace.ts';
import { spellOut, type TraceAnswer } from '../../core/trace/trace-answer.ts';
import { reach } from './read-graph.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.end());

async function trace(
  product: string,
  mark: { lot?: string; serial?: string },
  direction: 'upstream' | 'downstream'
): Promise<TraceAnswer> {
  const root = await findMarkId(world.sql, product, mark.lot, mark.serial);
  return spellOut((await traceMark(world.sql, root!, direction))!);
}
const names = (answer: TraceAnswer) =>
  answer.marks.map((mark) => `${mark.level} ${mark.number ?? mark.product}`);

describe('a trace through all levels', () => {
  beforeAll(async () => {
    await bookThroughLevels(world);
  });

  it('downstream: levels, ends, content and a balance that closes', async () => {
    const answer = await trace('KG', { lot: 'RESIN' }, 'downstream');
    expect(names(answer)).toEqual(['0 RESIN', '1 SHELL', '2 U1', '2 U2']);
    expect(answer.balance).toEqual({
      in: '10',
      onHand: '2.5',
      used: '6',
      shipped: '1.5',
      scrapped: '0',
      corrected: '0',
      open: '0'
    });
    expect(answer.marks.map((mark) => mark.content)).toEqual(['10', '6', '1.5', '1.5']);
    expect(answer.ends.customers.map((end) => [end.partner, end.quantity])).toEqual([
      ['CUS', '1'],
      ['CUS', '1.5']
    ]);
    expect(answer.ends.scrapped).toMatchObject([{ quantity: '1', place: 'LINE' }]);
    expect(answer.ends.suppliers.map((end) => end.partner)).toEqual(['SUP']);
    expect(answer.links.filter((link) => link.type === 'made')).toHaveLength(3);
    expect(answer.events.map((event) => event.kind)).toEqual([
      'receive',
      'build',
      'build',
      'ship',
      'scrap'
    ]);
    // What the ends hold adds up to what there was of the root.
    const share = (mark: number, amount: string) =>
      quantity(answer.marks.find((one) => one.id === mark)!.content!)
        .times(amount)
        .div(
          answer.marks.find((one) => one.id === mark)!.number === 'RESIN'
            ? 10
            : answer.marks.find((one) => one.id === mark)!.number === 'SHELL'
              ? 4
              : 1
        );
    const ends = [...answer.ends.customers, ...answer.ends.onHand, ...answer.ends.scrapped].map(
      (end) => share(end.mark, end.quantity)
    );
    expect(total(ends).toFixed()).toBe('10');
  });

  it('upstream: every component, the serial’s lot, stock without numbers as unmarked, suppliers', async () => {
    const answer = await trace('MADE', { serial: 'u1' }, 'upstream');
    expect(names(answer).sort()).toEqual(
      ['0 U1', '1 BULK', '1 C1', '1 SHELL', '2 CYL', '2 RESIN'].sort()
    );
    expect(answer.marks.find((mark) => mark.product === 'BULK')).toMatchObject({
      kind: 'bulk',
      number: null
    });
    expect(answer.links.find((link) => link.type === 'member')).toMatchObject({ type: 'member' });
    expect(new Set(answer.ends.suppliers.map((end) => end.partner))).toEqual(new Set(['SUP']));
    expect(answer.balance).toMatchObject({ in: '1', shipped: '1', open: '0' });
    expect(answer.marks.every((mark) => mark.content === undefined)).toBe(true);
  });

  it('a lot pulls in its serials and balances over them; a serial does not pull in its sisters', async () => {
    const lot = await trace('SIL', { lot: 'CYL' }, 'downstream');
    expect(names(lot)).toEqual(['0 CYL', '1 C1', '1 C2', '1 C3', '2 U1', '2 U2']);
    expect(lot.balance).toMatchObject({ in: '3', onHand: '1', used: '2', open: '0' });
    expect(names(await trace('SIL', { lot: 'CYL', serial: 'C1' }, 'upstream'))).toEqual([
      '0 C1',
      '1 CYL'
    ]);
  });

  it('rework that takes in what it makes does not hang it', async () => {
    await world.build([
      {
        outputs: [{ product: 'MADE', serial: 'U2', quantity: '1' }],
        inputs: [{ product: 'MADE', serial: 'U2', quantity: '1' }]
      }
    ]);
    const answer = await trace('KG', { lot: 'RESIN' }, 'downstream');
    expect(answer.marks).toHaveLength(4);
    expect(answer.balance.open).toBe('0');
  });

  it('there is no trace of what is not there', async () => {
    expect(await findMarkId(world.sql, 'KG', 'NOPE', undefined)).toBeNull();
    expect(await findMarkId(world.sql, 'SIL', 'OTHER', 'C1')).toBeNull();
    expect(await traceMark(world.sql, 987_654, 'upstream')).toBeNull();
  });
});

describe('against outside judges, on a ledger of a hundred random builds with loops', () => {
  let graph: DirectedGraph, ids: number[];
  beforeAll(async () => {
    await randomBookings(world, 100);
    graph = new DirectedGraph();
    ids = (await world.sql<{ id: number }[]>`SELECT id FROM mark`).map((row) => row.id);
    for (const id of ids) graph.addNode(id);
    for (const row of await world.sql<
      { a: number; b: number }[]
    >`SELECT i.mark_id AS a, o.mark_id AS b FROM transformation_input i JOIN transformation_output o USING (transformation_id) UNION SELECT lot_id, id FROM mark WHERE lot_id IS NOT NULL`)
      if (row.a !== row.b) graph.mergeDirectedEdge(row.a, row.b);
  });

  it('the database reaches downstream of every mark what graphology reaches', async () => {
    let largest = 0;
    for (const id of ids) {
      const expected = new Set<number>();
      bfsFromNode(graph, String(id), (node) => {
        expected.add(Number(node));
      });
      expect(new Set((await reach(world.sql, id, 'downstream')).marks)).toEqual(expected);
      largest = Math.max(largest, expected.size);
    }
    expect(largest).toBeGreaterThan(20);
  });

  it('and upstream, on the graph turned round', async () => {
    const lots = new Set(
      (
        await world.sql<
          { lot_id: number }[]
        >`SELECT DISTINCT lot_id FROM mark WHERE lot_id IS NOT NULL`
      ).map((row) => row.lot_id)
    );
    for (const id of ids.filter((one) => !lots.has(one))) {
      const expected = new Set<number>();
      bfsFromNode(
        graph,
        String(id),
        (node) => {
          expected.add(Number(node));
        },
        { mode: 'inbound' }
      );
      expect(new Set((await reach(world.sql, id, 'upstream')).marks)).toEqual(expected);
    }
  });

  it('every balance closes, and on hand equals an independent sum', async () => {
    for (const id of ids)
      expect((await traceMark(world.sql, id, 'downstream'))!.balance.open).toBe('0');
    expect(await onHandByStock(world.sql)).toEqual(await onHandByMovements(world.sql));
  });
});
