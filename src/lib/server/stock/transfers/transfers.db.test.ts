import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { putPlace } from '../../catalogue/partners-places.ts';
import { reverse } from '../../ledger/kinds.ts';
import type { BookedAnswer } from '../../ledger/book.ts';
import { reconcile } from '../../ledger/reconcile.ts';
import { refusalsOf } from '../../testing/caught.ts';
import { makeWorld, newKey, type World } from '../../testing/world.ts';
import { traceMark } from '../../trace/trace.ts';
import { pack, ship } from '../../shipping/kinds.ts';
import { correct, move } from '../kinds.ts';
import { readMarkPage } from '../mark-page.ts';
import { countUnderWay, readOnHand } from '../on-hand.ts';
import { readStockRows } from '../marks.ts';
import { arrive, dispatch } from './book-transfer.ts';
import { listTransfers, readTransfer } from './read-transfers.ts';
import { readTransferHead } from './transfer-head.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
  await putPlace(world.sql, 'FAR', { name: 'far', site: 'S2' });
  await putPlace(world.sql, 'FAR-Q', { name: 'far quarantine', site: 'S2', kind: 'quarantine' });
});
afterAll(async () => {
  expect(await reconcile(world.sql)).toMatchObject({ breaks: [] });
  await world.end();
});

type Lines = Parameters<typeof dispatch>[3]['lines'];
const leave = async (
  document: string,
  lines: Lines,
  key = newKey(),
  units: string[] = []
): Promise<BookedAnswer> => {
  const given = { document, from: 'S1', to: 'S2', lines, units };
  return JSON.parse((await dispatch(world.sql, world.actor, key, given)).answer) as BookedAnswer;
};
const come = async (document: string, more: object, key = newKey()): Promise<BookedAnswer> => {
  const given = { place: 'FAR', lines: [], short: 'wait' as const, ...more };
  const { answer } = await arrive(world.sql, world.actor, key, document, given);
  return JSON.parse(answer) as BookedAnswer;
};
const lying = async (product: string, like: string) =>
  (await readOnHand(world.sql, { products: [product], text: like }))
    .map((row) => `${row.number} ${row.place} ${row.quantity}`)
    .sort();
const kilo = async (lot: string): Promise<string> => {
  await world.receive('KG', [{ lot }], '1', 'RACK');
  return lot;
};
/** A carton of so much of the lot. */
const packed = async (lot: string, quantity: string): Promise<string> => {
  const lines = [{ product: 'LOT', lot, quantity }];
  const booked = await world.book(pack, { document: `P-${lot}`, kind: 'pack', lines, units: [] });
  return (booked as unknown as { units: string[] }).units[0]!;
};
const serials = (...names: string[]) => names.map((serial) => ({ serial }));

describe('a transfer', () => {
  it('leaves one site and arrives at the other in parts; under way it is ours and on hand nowhere', async () => {
    await world.receive('LOT', [{ lot: 'T1' }], '10', 'RACK');
    await world.receive('SER', serials('T1-1', 'T1-2'), '2', 'RACK');
    const { marks } = await leave('TR-1', [
      { product: 'LOT', place: 'RACK', marks: [{ lot: 'T1', quantity: '6' }] },
      { product: 'SER', place: 'RACK', marks: serials('T1-1', 'T1-2') }
    ]);
    expect(marks.map((mark) => mark.onHand)).toEqual(['4', '0', '0']);
    expect(await lying('LOT', 'T1')).toEqual(['T1 RACK 4']);
    expect(await lying('SER', 'T1')).toEqual([]);
    const rows = await readStockRows(world.sql, { product: 'SER', limit: 100 });
    expect(rows.rows.filter((row) => row.mark.number?.startsWith('T1'))).toEqual([]);

    await come('TR-1', {
      lines: [
        { product: 'LOT', marks: [{ lot: 'T1', quantity: '5' }] },
        { product: 'SER', marks: serials('T1-1') }
      ]
    });
    expect(await lying('LOT', 'T1')).toEqual(['T1 FAR 5', 'T1 RACK 4']);
    const head = await readTransferHead(world.sql, 'TR-1');
    const { underWay, steps } = await readTransfer(world.sql, head);
    expect(underWay.rows.map((row) => [row.number, row.quantity])).toEqual([
      ['T1', '1'],
      ['T1-2', '1']
    ]);
    expect(steps.map((step) => [step.kind, step.quantity])).toEqual([
      ['transfer', '8'],
      ['transfer', '-6']
    ]);
    expect(await countUnderWay(world.sql)).toBe(2);
    const [mark] = underWay.rows.filter((row) => row.number === 'T1-2');
    const page = (await readMarkPage(world.sql, mark!.mark))!;
    expect(page).toMatchObject({
      mark: { onHand: '0' },
      places: [{ code: 'WAY TR-1', underWay: true }]
    });
    const listed = await listTransfers(world.sql);
    expect(listed.rows.find((row) => row.document === 'TR-1')).toMatchObject({ marks: 2 });
  });

  it('waits for what did not come, writes it off with a reason, and it may be found again', async () => {
    await world.receive('SER', serials('T2-1', 'T2-2'), '2', 'RACK');
    await leave('TR-2', [{ product: 'SER', place: 'RACK', marks: serials('T2-1', 'T2-2') }]);
    await come('TR-2', { lines: [{ product: 'SER', marks: serials('T2-1') }] });
    expect(await refusalsOf(come('TR-2', { short: 'lost' }))).toEqual([
      '422 quantity.mismatch reason'
    ]);
    const key = newKey();
    const lost = await come('TR-2', { short: 'lost', reason: 'fell off the ferry' }, key);
    expect(lost.event.kind).toBe('loss');
    // Sent again, as after a lost answer, it is the same one.
    expect(await come('TR-2', { short: 'lost', reason: 'fell off the ferry' }, key)).toEqual(lost);
    const head = await readTransferHead(world.sql, 'TR-2');
    expect((await readTransfer(world.sql, head)).underWay.rows).toEqual([]);
    const gain = { product: 'SER', place: 'FAR', serial: 'T2-2' };
    await world.book(correct, { document: 'G', kind: 'gain', reason: 'washed up', lines: [gain] });
    expect(await lying('SER', 'T2')).toEqual(['T2-1 FAR 1', 'T2-2 FAR 1']);
  });

  it('tells which cartons are under way, and they arrive or are written off as cartons', async () => {
    await world.receive('LOT', [{ lot: 'T13' }], '9', 'RACK');
    await world.receive('LOT', [{ lot: 'T14' }], '2', 'RACK');
    const [here, gone] = [await packed('T13', '3'), await packed('T14', '2')];
    const loose = { product: 'LOT', place: 'RACK', marks: [{ lot: 'T13', quantity: '1' }] };
    await leave('TR-13', [loose], newKey(), [here, gone]);
    const head = await readTransferHead(world.sql, 'TR-13');
    const under = async () =>
      (await readTransfer(world.sql, head)).cartons.map(({ sscc, contents }) => [
        sscc,
        ...contents.map((one) => one.quantity)
      ]);
    expect(await under()).toEqual([
      [here, '3'],
      [gone, '2']
    ]);
    await come('TR-13', { units: [here] });
    expect(await under()).toEqual([[gone, '2']]);
    await come('TR-13', { short: 'lost', reason: 'the carton was never seen again' });
    expect(await under()).toEqual([]);
    expect(await lying('LOT', 'T13')).toEqual(['T13 FAR 3', 'T13 RACK 5']);
    expect(await lying('LOT', 'T14')).toEqual([]);
  });

  it('the trace runs through it', async () => {
    await world.receive('KG', [{ lot: 'T3' }], '4', 'RACK');
    await leave('TR-3', [{ product: 'KG', place: 'RACK', marks: [{ lot: 'T3', quantity: '4' }] }]);
    await come('TR-3', { lines: [{ product: 'KG', marks: [{ lot: 'T3', quantity: '4' }] }] });
    const lines = [{ product: 'KG', place: 'FAR', marks: [{ lot: 'T3', quantity: '3' }] }];
    await world.book(ship, { document: 'S-T3', customer: 'CUS', lines });
    const [mark] = await world.sql<{ id: number }[]>`SELECT id FROM mark WHERE number = 'T3'`;
    const trace = (await traceMark(world.sql, mark!.id, 'downstream'))!;
    expect(trace.ends.customers).toMatchObject([{ partner: 'CUS', quantity: '3' }]);
    expect(trace.events.map((event) => event.kind)).toEqual([
      'receive',
      'transfer',
      'transfer',
      'ship'
    ]);
    expect(trace.balance).toMatchObject({ in: '4', shipped: '3', onHand: '1', open: '0' });
  });

  it('is taken back like anything that was booked', async () => {
    await world.receive('LOT', [{ lot: 'T4' }], '2', 'RACK');
    const lot = [{ lot: 'T4', quantity: '2' }];
    const left = await leave('TR-4', [{ product: 'LOT', place: 'RACK', marks: lot }]);
    const came = await come('TR-4', { lines: [{ product: 'LOT', marks: lot }] });
    for (const { event } of [came, left])
      await world.book(reverse, { document: 'TR-4', event: event.id, reason: 'wrong lorry' });
    expect(await lying('LOT', 'T4')).toEqual(['T4 RACK 2']);
  });

  it('sent twice under one key is one, and under its document again more of it leaves', async () => {
    await world.receive('LOT', [{ lot: 'T5' }], '5', 'RACK');
    const line = { product: 'LOT', place: 'RACK', marks: [{ lot: 'T5', quantity: '2' }] };
    const key = newKey();
    const first = await leave('TR-5', [line], key);
    expect(await leave('TR-5', [line], key)).toEqual(first);
    await leave('TR-5', [line]);
    expect(await lying('LOT', 'T5')).toEqual(['T5 RACK 1']);
    const elsewhere = { document: 'TR-5', from: 'S2', to: 'S1', lines: [] };
    const refused = dispatch(world.sql, world.actor, newKey(), elsewhere);
    expect(await refusalsOf(refused)).toEqual(['409 mark.duplicate document']);
  });
});

describe('a transfer refuses', () => {
  it('to arrive twice, at the wrong site, or to arrive what never left', async () => {
    await world.receive('SER', serials('T6-1', 'T6-2'), '2', 'RACK');
    await leave('TR-6', [{ product: 'SER', place: 'RACK', marks: serials('T6-1') }]);
    const line = { product: 'SER', marks: serials('T6-1') };
    expect(await refusalsOf(come('TR-6', { place: 'RACK', lines: [line] }))).toEqual([
      '422 place.unknown place'
    ]);
    const never = { product: 'SER', marks: serials('T6-1', 'T6-2') };
    expect(await refusalsOf(come('TR-6', { lines: [never] }))).toEqual([
      '422 transfer.unknown lines[0].marks[1]'
    ]);
    await come('TR-6', { lines: [line] });
    expect(await refusalsOf(come('TR-6', { lines: [line] }))).toEqual([
      '422 transfer.unknown lines[0].marks[0]'
    ]);
    expect(await refusalsOf(come('NONE', { lines: [line] }))).toEqual([
      '404 transfer.unknown code'
    ]);
  });

  it('to arrive twice at the same moment', async () => {
    await world.receive('LOT', [{ lot: 'T7' }], '3', 'RACK');
    const lot = [{ lot: 'T7', quantity: '3' }];
    await leave('TR-7', [{ product: 'LOT', place: 'RACK', marks: lot }]);
    const both = await Promise.allSettled([
      come('TR-7', { lines: [{ product: 'LOT', marks: lot }] }),
      come('TR-7', { lines: [{ product: 'LOT', marks: lot }] })
    ]);
    expect(both.map((one) => one.status).sort()).toEqual(['fulfilled', 'rejected']);
    expect(await lying('LOT', 'T7')).toEqual(['T7 FAR 3']);
  });

  it('what lies at another site, one site to itself, and sites that are none', async () => {
    const line = { product: 'LOT', place: 'FAR', marks: [{ lot: 'T7', quantity: '1' }] };
    expect(await refusalsOf(leave('TR-8', [line]))).toEqual(['422 place.unknown lines[0].place']);
    const sent = (from: string, to: string) =>
      dispatch(world.sql, world.actor, newKey(), { document: 'TR-9', from, to, lines: [line] });
    expect(await refusalsOf(sent('S1', 'S1'))).toEqual(['422 place.unknown to']);
    expect(await refusalsOf(sent('S1', 'S9'))).toEqual(['422 place.unknown to']);
    expect(await refusalsOf(leave('TR-8', []))).toEqual(['422 quantity.mismatch lines']);
    // Nothing of a refused transfer is left behind.
    expect((await listTransfers(world.sql)).rows.some((row) => row.document === 'TR-8')).toBe(
      false
    );
  });

  it('a carton at the wrong site, one that never left, and one that arrived already', async () => {
    await world.receive('LOT', [{ lot: 'T11' }], '3', 'RACK');
    const units = [await packed('T11', '3')];
    const given = { document: 'TR-11', from: 'S1', to: 'S2', lines: [], units };
    const send = () => dispatch(world.sql, world.actor, newKey(), given);
    await leave('TR-12', [
      { product: 'KG', place: 'RACK', marks: [{ lot: await kilo('T12'), quantity: '1' }] }
    ]);
    expect(await refusalsOf(come('TR-12', { units }))).toEqual(['422 transfer.unknown units[0]']);
    await send();
    expect(await refusalsOf(send())).toEqual(['422 place.unknown units[0]']);
    expect(await refusalsOf(come('TR-11', { place: 'RACK', units }))).toEqual([
      '422 place.unknown place'
    ]);
    const moving = { document: 'M', kind: 'move' as const, lines: [] };
    const moved = await world.refused(move, {
      ...moving,
      units: units.map((sscc) => ({ sscc, to: 'RACK' }))
    });
    expect(moved[0]).toMatchObject({ code: 'stock.short', path: 'units[0]' });
    await come('TR-11', { units });
    expect(await lying('LOT', 'T11')).toEqual(['T11 FAR 3']);
    expect(await refusalsOf(come('TR-11', { units }))).toEqual(['422 transfer.unknown units[0]']);
  });

  it('that what is under way is shipped, moved, received to or counted', async () => {
    await world.receive('SER', serials('T10'), '1', 'RACK');
    await leave('TR-10', [{ product: 'SER', place: 'RACK', marks: serials('T10') }]);
    const shipped = await world.refused(ship, {
      document: 'S',
      customer: 'CUS',
      lines: [{ product: 'SER', marks: serials('T10') }]
    });
    expect(shipped[0]).toMatchObject({
      code: 'stock.short',
      message: expect.stringContaining('is on the way between sites')
    });
    const line = { product: 'SER', serial: 'T10', from: 'WAY TR-10', to: 'RACK' };
    const moved = await world.refused(move, { document: 'M', kind: 'move', lines: [line] });
    expect(moved[0]).toMatchObject({ code: 'place.unknown', path: 'lines[0].from' });
    await expect(
      putPlace(world.sql, 'WAY TR-10', { name: 'mine', site: 'S1' })
    ).rejects.toMatchObject({ status: 422 });
  });
});
