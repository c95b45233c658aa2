import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { receive } from '../../receiving/kinds.ts';
import { readPartnerPage } from '../../shipping/partner-page.ts';
import { goodsReturn, ship } from '../../shipping/kinds.ts';
import { quality } from '../../quality/kinds.ts';
import { makeWorld, type World } from '../../testing/world.ts';
import { putPlace } from '../../catalogue/partners-places.ts';
import { move } from '../kinds.ts';
import { readHistory } from '../history.ts';
import { DeskQuery } from './asked.ts';
import { deskFile } from './desk-file.ts';
import { readDesk } from './read-desk.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
  await putPlace(world.sql, 'Q', { name: 'quarantine', site: 'S1', kind: 'quarantine' });
  const at = (day: string) => ({ at: `${day}T09:00:00Z`, document: `R-${day}`, supplier: 'SUP' });
  await world.book(receive, {
    ...at('2024-02-01'),
    lines: [
      {
        product: 'LOT',
        place: 'RACK',
        quantity: '10',
        marks: [{ lot: 'D1', expires: '2031-03-01' }]
      },
      {
        product: 'LOT',
        place: 'RACK',
        quantity: '4',
        marks: [{ lot: 'D2', expires: '2029-03-01' }]
      },
      { product: 'SER', place: 'DOCK', quantity: '2', marks: [{ serial: 'D3' }, { serial: 'D4' }] }
    ]
  });
  const moved = { at: '2024-02-10T09:00:00Z', document: 'M-1', kind: 'move' as const };
  const line = { product: 'LOT', lot: 'D1', from: 'RACK', to: 'Q', quantity: '3' };
  await world.book(move, { ...moved, lines: [line] });
  const marks = [{ product: 'LOT', lot: 'D2' }];
  const held = { at: '2024-02-12T09:00:00Z', document: 'H-1', kind: 'hold' as const };
  await world.book(quality, { ...held, reason: 'a smell', marks });
  await world.book(ship, {
    ...{ at: '2024-02-20T09:00:00Z', document: 'S-1', customer: 'CUS' },
    lines: [{ product: 'SER', marks: [{ serial: 'D3' }, { serial: 'D4' }] }]
  });
  const back = [{ product: 'SER', serial: 'D4' }];
  const returned = { at: '2024-02-25T09:00:00Z', document: 'B-1', place: 'RACK' };
  await world.book(goodsReturn, { ...returned, lines: back });
});
afterAll(() => world.end());

const desk = async (asked: object) => {
  const { rows } = await readDesk(world.sql, DeskQuery.parse(asked), 100);
  return rows.map((row) => `${row.number} ${row.place} ${row.quantity} ${row.free} ${row.state}`);
};

describe('the desk of the store', () => {
  it('lists every lot and serial at every place, with what is free of it', async () => {
    expect(await desk({ q: 'D' })).toEqual([
      'D1 Q 3 0 usable',
      'D1 RACK 7 7 usable',
      'D2 RACK 4 0 held',
      'D4 RACK 1 0 held'
    ]);
    expect(await desk({ sort: 'expires' })).toEqual([
      'D2 RACK 4 0 held',
      'D1 Q 3 0 usable',
      'D1 RACK 7 7 usable',
      'D4 RACK 1 0 held'
    ]);
    expect((await desk({ sort: 'quantity', down: '1' }))[0]).toBe('D1 RACK 7 7 usable');
    // What comes back is held until somebody decided.
    expect(await desk({ only: 'held', sort: 'number' })).toEqual([
      'D1 Q 3 0 usable',
      'D2 RACK 4 0 held',
      'D4 RACK 1 0 held'
    ]);
    expect(await desk({ only: 'free', site: 's1', product: 'lot' })).toEqual([
      'D1 RACK 7 7 usable'
    ]);
    expect(await desk({ only: 'empty' })).toEqual(['D3 DOCK 0 0 usable', 'D4 DOCK 0 0 held']);
    const { sums, count } = await readDesk(world.sql, DeskQuery.parse({}), 1);
    expect([sums, count]).toEqual([[{ unit: 'each', quantity: '15' }], 4]);
  });

  it('stands as it did on any day, with the state it had then', async () => {
    expect(await desk({ day: '2024-01-31' })).toEqual([]);
    expect(await desk({ day: '2024-02-11' })).toEqual([
      'D1 Q 3 null usable',
      'D1 RACK 7 null usable',
      'D2 RACK 4 null usable',
      'D3 DOCK 1 null usable',
      'D4 DOCK 1 null usable'
    ]);
    expect(await desk({ day: '2024-02-12', product: 'LOT', only: 'held' })).toEqual([
      'D1 Q 3 null usable',
      'D2 RACK 4 null held'
    ]);
    expect(await desk({ day: '2024-02-20', product: 'SER' })).toEqual([]);
  });

  it('is had as a table and on paper', async () => {
    const csv = await deskFile(world.sql, DeskQuery.parse({ sort: 'expires' }), 'csv');
    const lines = new TextDecoder().decode(csv.body).trim().split('\r\n');
    expect(lines).toHaveLength(5);
    expect(lines[1]).toBe('LOT,lot,D2,,S1,RACK,4,each,0,0,held,2029-03-01,2024-02-01');
    const pdf = await deskFile(world.sql, DeskQuery.parse({}), 'pdf');
    expect(new TextDecoder().decode(pdf.body.slice(0, 5))).toBe('%PDF-');
  });
});

describe('histories', () => {
  const said = async (of: Parameters<typeof readHistory>[1], before?: number) =>
    (await readHistory(world.sql, of, { before, most: 3 })).rows.map(
      (row) => `${row.document} ${row.number ?? row.marks} +${row.came} -${row.went} = ${row.after}`
    );

  it('tell of a product over all places, and of a place over all products', async () => {
    expect(await said({ product: 'SER' })).toEqual([
      'B-1 D4 +1 -0 = 1',
      'S-1 2 +0 -2 = 0',
      'R-2024-02-01 2 +2 -0 = 2'
    ]);
    expect(await said({ product: 'LOT' })).toEqual([
      'M-1 D1 +3 -3 = 14',
      'R-2024-02-01 2 +14 -0 = 14'
    ]);
    const { rows, total } = await readHistory(world.sql, { place: 'rack' }, { most: 2 });
    expect([rows.length, total]).toEqual([2, 3]);
    expect(await said({ place: 'RACK' }, rows.at(-1)!.event)).toEqual([
      'R-2024-02-01 2 +14 -0 = 14'
    ]);
  });

  it('tell of a partner what they have, and what they sent', async () => {
    const customer = (await readPartnerPage(world.sql, 'cus'))!;
    expect(customer.has.rows.map((row) => [row.number, row.document])).toEqual([['D3', 'S-1']]);
    expect(customer.events.rows.map((row) => row.kind)).toEqual(['return', 'ship']);
    const supplier = (await readPartnerPage(world.sql, 'SUP'))!;
    expect(supplier.sent.map((row) => [row.product, row.quantity, row.marks])).toEqual([
      ['LOT', '14', 2],
      ['SER', '2', 2]
    ]);
    expect(supplier.has.total).toBe(0);
    expect(await readPartnerPage(world.sql, 'NOBODY')).toBeNull();
  });
});
