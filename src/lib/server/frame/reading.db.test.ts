import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { quality } from '../quality/kinds.ts';
import { build } from '../making/kinds.ts';
import { receive } from '../receiving/kinds.ts';
import { keepDraft, dropDraft, readDraft } from '../ledger/drafts.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { putPerson } from '../people/write-people.ts';
import { readEventPage } from '../ledger/event-page.ts';
import { find } from './find.ts';
import { readMarkPage } from '../stock/mark-page.ts';
import { findMarks, readStockRows } from '../stock/marks.ts';
import { readAvailable, readOnHand } from '../stock/on-hand.ts';
import { readToday } from './today.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

// One small company, read by every screen.
let world: World;
const TODAY = '2026-11-23';
let lot: number, unit: number, cylinders: number, built: number;
beforeAll(async () => {
  world = await makeWorld();
  const received = await world.book(receive, {
    document: 'GR-7',
    reference: 'DN 4711',
    supplier: 'SUP',
    at: '2026-03-03T08:00:00Z',
    lines: [
      {
        product: 'LOT',
        place: 'DOCK',
        quantity: '10',
        marks: [
          { lot: 'LATE', quantity: '4', expires: '2027-06-01', supplierNumber: 'X-99' },
          { lot: 'SOON', quantity: '6', expires: '2026-12-01' }
        ]
      },
      {
        product: 'SIL',
        place: 'RACK',
        quantity: '2',
        marks: [
          { lot: 'CYL', serial: 'C1' },
          { lot: 'CYL', serial: 'C2' }
        ]
      },
      { product: 'BULK', place: 'DOCK', quantity: '9' }
    ]
  });
  lot = received.marks[1]!.id;
  const made = await world.book(build, {
    ...{ document: 'B-7', place: 'LINE', at: '2026-03-04T08:00:00Z' },
    groups: [
      {
        outputs: [{ product: 'MADE', serial: 'U-100', quantity: '1' }],
        inputs: [
          { product: 'LOT', lot: 'SOON', quantity: '1.5' },
          { product: 'SIL', serial: 'C1' }
        ]
      }
    ]
  });
  unit = made.marks[0]!.id;
  built = made.event.id;
  cylinders = (await findMarks(world.sql, { lot: 'CYL', limit: 10 })).marks[0]!.id;
  await world.book(quality, {
    document: 'H-1',
    kind: 'hold',
    reason: 'dented',
    marks: [{ product: 'SIL', lot: 'CYL' }]
  });
});
afterAll(() => world.end());

describe('on hand', () => {
  it('stands soonest expiry first, and a serial shows its lot’s hold', async () => {
    const rows = await readOnHand(world.sql, {});
    expect(
      rows
        .filter((row) => row.product === 'LOT')
        .map((row) => [row.number, row.quantity, row.expires])
    ).toEqual([
      ['SOON', '4.5', '2026-12-01'],
      ['LATE', '4', '2027-06-01']
    ]);
    expect(rows.find((row) => row.number === 'C2')).toMatchObject({
      lot: 'CYL',
      state: 'held',
      quantity: '1'
    });
    expect(rows.some((row) => row.number === 'C1')).toBe(false);
  });
  it('is narrowed by product, number, place or their number, and % is no wildcard', async () => {
    const numbers = async (text: string) =>
      (await readOnHand(world.sql, { text })).map((row) => row.number);
    expect(await numbers('x-99')).toEqual(['LATE']);
    expect(await numbers('RACK')).toEqual(['C2']);
    expect(await numbers('%')).toEqual([]);
    const there = await readAvailable(world.sql, ['LOT', 'MADE'], '2026-12-02');
    expect(Object.keys(there.marks)).toEqual(['LOT', 'MADE']);
    // SOON is past its date on that day: it is listed, and not counted.
    expect(there.usable).toMatchObject({ LOT: '4' });
    expect(there.onHand).toMatchObject({ LOT: '8.5' });
  });
});

describe('the page of a mark', () => {
  it('says where it is, what it was made of, what it went into, and every transaction, latest first', async () => {
    const page = (await readMarkPage(world.sql, lot))!;
    expect(page.mark).toMatchObject({
      number: 'SOON',
      onHand: '4.5',
      expires: '2026-12-01',
      state: 'usable'
    });
    expect(page.places).toMatchObject([{ code: 'DOCK', quantity: '4.5' }]);
    expect(page.wentInto.map((row) => [row.number, row.event])).toEqual([['U-100', built]]);
    expect(page.cameFrom).toMatchObject({ partner: 'Supplier', document: 'GR-7' });
    expect(
      page.timeline.map((row) => [
        row.kind,
        row.places.map((place) => `${place.code} ${place.quantity}`).join()
      ])
    ).toEqual([
      ['build', 'DOCK -1.5'],
      ['receive', 'DOCK 6']
    ]);
    expect(
      (await readMarkPage(world.sql, unit))!.madeFrom.map((row) => [row.number, row.quantity])
    ).toEqual([
      ['SOON', '1.5'],
      ['C1', '1']
    ]);
  });
  it('of a lot with serials speaks for all of them, and tells its hold with the reason', async () => {
    const page = (await readMarkPage(world.sql, cylinders))!;
    expect(page).toMatchObject({ memberCount: 2, mark: { onHand: '1', state: 'held' } });
    expect(page.timeline.map((row) => row.kind)).toEqual(['hold', 'build', 'receive']);
    expect(page.timeline[0]).toMatchObject({
      reason: 'dented',
      who: 'Test Person',
      changes: [{ field: 'state', from: 'usable', to: 'held' }]
    });
    expect(await readMarkPage(world.sql, 999_999)).toBeNull();
  });
});

describe('the page of an event', () => {
  it('has its lines, what was made before what was used', async () => {
    const page = (await readEventPage(world.sql, built))!;
    expect(page).toMatchObject({ kind: 'build', who: 'Test Person', order: null, lineCount: 3 });
    expect(page.lines.map((line) => [line.number, line.quantity])).toEqual([
      ['U-100', '1'],
      ['SOON', '-1.5'],
      ['C1', '-1']
    ]);
    expect(await readEventPage(world.sql, 999_999)).toBeNull();
  });
});

describe('the scan field', () => {
  const titles = async (text: string) =>
    (await find(world.sql, text, { today: TODAY })).map((hit) => `${hit.type} ${hit.title}`);
  it('finds by our number, theirs, papers, products and partners; exact hits first', async () => {
    expect((await titles('soon'))[0]).toBe('lot SOON');
    expect(await titles('x-99')).toEqual(['lot LATE']);
    expect(await titles('dn 4711')).toEqual(['event GR-7']);
    expect(await titles('suppl')).toEqual(['partner Supplier']);
    expect((await titles('lot')).includes('product LOT')).toBe(true);
    expect(await titles('C')).toEqual(expect.arrayContaining(['serial C1', 'lot CYL']));
  });
  it('finds nothing, quietly, for what cannot be a number', async () => {
    for (const text of [
      '%',
      '_',
      'не номер',
      'x'.repeat(300),
      ']d2garbage',
      "'; DROP TABLE mark; --"
    ])
      expect(await titles(text)).toEqual([]);
  });
});

describe('Today', () => {
  it('has what is held with its reason, and what expires within thirty days', async () => {
    const screen = await readToday(world.sql, TODAY, world.actor.personId);
    expect(screen.held.rows).toMatchObject([{ number: 'CYL', onHand: '1', reason: 'dented' }]);
    expect(screen.expiring.rows.map((row) => row.number)).toEqual(['SOON']);
    expect(screen.lately.map((event) => event.kind)).toEqual(
      expect.arrayContaining(['hold', 'build', 'receive'])
    );
  });
});

describe('lists for the API', () => {
  it('page through stock without gap or repeat', async () => {
    const seen: string[] = [];
    for (let cursor: string | undefined = ''; cursor !== undefined;) {
      const page: Awaited<ReturnType<typeof readStockRows>> = await readStockRows(world.sql, {
        limit: 2,
        cursor
      });
      seen.push(
        ...page.rows.map(
          (row) => `${row.mark.number ?? row.mark.product} ${row.place} ${row.quantity}`
        )
      );
      cursor = page.next;
    }
    expect(seen.sort()).toEqual([
      'BULK DOCK 9',
      'C2 RACK 1',
      'LATE DOCK 4',
      'SOON DOCK 4.5',
      'U-100 LINE 1'
    ]);
  });
  it('find a lot with the serials within it, and write quantities shortest', async () => {
    expect(
      (await findMarks(world.sql, { lot: 'cyl', limit: 10 })).marks.map((mark) => [
        mark.kind,
        mark.number,
        mark.lot
      ])
    ).toEqual([
      ['lot', 'CYL', undefined],
      ['serial', 'C1', 'CYL'],
      ['serial', 'C2', 'CYL']
    ]);
    expect((await findMarks(world.sql, { product: 'bulk', limit: 10 })).marks).toMatchObject([
      { kind: 'bulk', number: null, onHand: '9' }
    ]);
    expect(['12.500000', '0.000000', '100', '-3.000000', '0.000001'].map(trimZeros)).toEqual([
      '12.5',
      '0',
      '100',
      '-3',
      '0.000001'
    ]);
  });
});

describe('drafts', () => {
  it('are one’s own, and say who else has one', async () => {
    await putPerson(world.sql, null, 'zoe', { name: 'Zoe', roles: ['receiver'], active: true });
    const zoe = (await world.sql<{ id: number }[]>`SELECT id FROM person WHERE login = 'zoe'`)[0]!
      .id;
    await keepDraft(world.sql, world.actor.personId, 'receive PO-1', {
      lines: { 1: [{ serial: 'A' }] }
    });
    await keepDraft(world.sql, zoe, 'receive PO-1', { lines: {} });
    await keepDraft(world.sql, world.actor.personId, 'receive PO-1', {
      lines: { 1: [{ serial: 'B' }] }
    });
    expect(await readDraft(world.sql, world.actor.personId, 'receive PO-1')).toMatchObject({
      body: { lines: { 1: [{ serial: 'B' }] } },
      others: ['Zoe']
    });
    await dropDraft(world.sql, world.actor.personId, 'receive PO-1');
    expect(await readDraft(world.sql, world.actor.personId, 'receive PO-1')).toEqual({
      body: null,
      keptAt: null,
      others: ['Zoe']
    });
  });
});
