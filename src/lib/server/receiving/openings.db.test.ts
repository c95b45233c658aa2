import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { plainPlan } from '../../core/catalogue/plan.ts';
import { putPlan } from '../catalogue/plans.ts';
import { putProduct } from '../catalogue/products.ts';
import { reconcile } from '../ledger/reconcile.ts';
import { reverse } from '../ledger/kinds.ts';
import { readMarkPage } from '../stock/mark-page.ts';
import { readOnHand } from '../stock/on-hand.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { traceMark } from '../trace/trace.ts';
import { importOpenings } from './import-openings.ts';
import { open, receive } from './kinds.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(async () => {
  expect(await reconcile(world.sql)).toMatchObject({ breaks: [] });
  await world.end();
});

const file = (...lines: string[]): Uint8Array => new TextEncoder().encode(lines.join('\n'));
const bring = (mode: 'check' | 'write' | 'write-good', ...lines: string[]) =>
  importOpenings(world.sql, world.actor, file(...lines), mode, 'OPEN');
const lying = async (product: string) =>
  (await readOnHand(world.sql, { products: [product] })).map(
    (row) => `${row.number} ${row.place} ${row.quantity}`
  );

describe('opening stock', () => {
  it('is the origin of what is made of it, in the trace by either way', async () => {
    const { marks } = await world.book(open, {
      document: 'OPEN-1',
      at: '2026-01-05T08:00:00Z',
      lines: [{ product: 'KG', place: 'RACK', quantity: '10', marks: [{ lot: 'OLD' }] }]
    });
    await world.build([
      {
        outputs: [{ product: 'MADELOT', lot: 'NEW', quantity: '2' }],
        inputs: [{ product: 'KG', lot: 'OLD', quantity: '4' }]
      }
    ]);
    const [made] = await world.sql<{ id: number }[]>`SELECT id FROM mark WHERE number = 'NEW'`;
    const { ends } = (await traceMark(world.sql, made!.id, 'upstream'))!;
    expect(ends.suppliers).toEqual([]);
    expect(ends.origins).toMatchObject([
      { kind: 'opening', document: 'OPEN-1', mark: marks[0]!.id, place: 'RACK', quantity: '10' }
    ]);
    const page = await readMarkPage(world.sql, marks[0]!.id);
    expect(page).toMatchObject({ cameFrom: { kind: 'opening', document: 'OPEN-1' } });
  });

  it('is taken back by whoever may book it, and may be brought in again', async () => {
    const line = { product: 'SER', place: 'RACK', quantity: '1', marks: [{ serial: 'TWICE' }] };
    const { event } = await world.book(open, { document: 'O', lines: [line] });
    await world.book(reverse, { document: 'O', event: event.id, reason: 'typed wrong' });
    await world.book(open, { document: 'O', lines: [line] });
    expect(await lying('SER')).toEqual(['TWICE RACK 1']);
  });

  it('adds to no lot twice at one place, however it is sent', async () => {
    const lines = [{ product: 'LOT', place: 'DOCK', quantity: '3', marks: [{ lot: 'ONCE' }] }];
    await world.book(open, { document: 'O', lines });
    const refused = await world.refused(open, { document: 'P', lines });
    expect(refused.map((fault) => fault.code)).toEqual(['mark.duplicate']);
    // A receipt of the same lot is another delivery.
    const receipt = { document: 'R', supplier: 'SUP', lines };
    await world.book(receive, receipt);
    expect(await lying('LOT')).toEqual(['ONCE DOCK 6']);
  });
});

describe('a file of opening stock', () => {
  const HEAD = 'Product,Place,Lot,Serial,Quantity,Made,Expiry,Their number,Cost,Since';

  it('is checked row by row, then written: an event for each day things lie there since', async () => {
    const rows = [
      HEAD,
      'LOT,RACK,F-1,,12.5,2026-01-02,2027-01-02,X-9,1.25,2026-02-01',
      'LOT,LINE,F-1,,2,,,,,2026-02-01',
      'SIL,RACK,G,G-1,,,,,,2026-03-05',
      'BULK,RACK,,,100,,,,0.02,'
    ];
    const checked = await bring('check', ...rows);
    expect(checked).toMatchObject({ written: false, counts: { new: 4, fault: 0 } });
    expect(await lying('BULK')).toEqual([]);
    expect(await bring('write', ...rows)).toMatchObject({ written: true, counts: { new: 4 } });
    expect(await lying('BULK')).toEqual(['BULK RACK 100']);
    const events = await world.sql<{ day: string; marks: number }[]>`
      SELECT e.happened_at::date AS day, count(*)::int AS marks
      FROM event e
        JOIN movement v ON v.event_id = e.id
      WHERE e.document = 'OPEN'
      GROUP BY e.id, e.happened_at
      ORDER BY e.happened_at
    `;
    expect(events.map((one) => one.marks)).toEqual([2, 1, 1]);
    expect(events.slice(0, 2).map((one) => one.day)).toEqual(['2026-02-01', '2026-03-05']);
    const [cost] = await world.sql<{ cost: string }[]>`
      SELECT v.unit_cost AS cost
      FROM movement v
        JOIN mark m ON m.id = v.mark_id
      WHERE m.number = 'F-1' AND v.quantity = 12.5
    `;
    expect(Number(cost!.cost)).toBe(1.25);
    // The same file once more is the same stock.
    expect(await bring('write', ...rows)).toMatchObject({ counts: { same: 4, new: 0 } });
    expect(await lying('BULK')).toEqual(['BULK RACK 100']);
  });

  it('names every row that cannot be, and writes the good ones where that is asked', async () => {
    await world.receive('SER', [{ serial: 'GONE' }]);
    await world.ship([{ product: 'SER', place: 'DOCK', marks: [{ serial: 'GONE' }] }]);
    const rows = [
      HEAD,
      'SER,RACK,,GONE,,,,,,',
      'LOT,RACK,H-1,,5,2026-13-40,,,,',
      'LOT,RACK,H-2,,5,,,,-1,',
      'LOT,NOWHERE,H-3,,5,,,,1e400,',
      'LOT,RACK,H-4,,,,,,,',
      'LOT,RACK,H-5,,5,,,,,2999-01-01',
      'LOT,RACK,H-6,,5,,,,,'
    ];
    const checked = await bring('write', ...rows);
    expect(checked).toMatchObject({ written: false, counts: { fault: 6, new: 1 } });
    const said = (row: number) => checked.rows.find((one) => one.row === row)!.messages.join(' ');
    expect(said(2)).toContain('has left since');
    expect(said(3)).toContain('is no date');
    expect(said(4)).toContain('“-1” is no cost');
    expect(said(5)).toContain('There is no place NOWHERE');
    expect(said(5)).toContain('“1e400” is no cost');
    expect(said(6)).toContain('quantity');
    expect(said(7)).toContain('still to come');
    expect(await bring('write-good', ...rows)).toMatchObject({ written: true });
    // Mended and sent again, the row that was good is told and not doubled.
    const mended = await bring('write', HEAD, 'LOT,RACK,H-4,,7,,,,,', 'LOT,RACK,H-6,,5,,,,,');
    expect(mended).toMatchObject({ counts: { fault: 1, new: 1 } });
    const lots = await lying('LOT');
    expect(lots).toContain('H-6 RACK 5');
    expect(lots.some((row) => row.startsWith('H-4'))).toBe(false);
  });

  it('has a column for each fact a plan asks for', async () => {
    const facts = [
      { name: 'tint', kind: 'text', unit: '', least: null, most: null, choices: [], required: true }
    ] as const;
    await putPlan(world.sql, world.actor, 'TINTED', {
      name: 'tinted',
      ...plainPlan('lot'),
      facts: [...facts]
    } as never);
    await putProduct(world.sql, 'PAINT', {
      name: 'paint',
      unit: 'l',
      decimals: 1,
      made: false,
      plan: 'TINTED'
    });
    const rows = ['product,place,lot,quantity,Tint', 'PAINT,RACK,P-1,4,blue', 'PAINT,RACK,P-2,4,'];
    const report = await bring('write-good', ...rows);
    expect(report.rows.map((row) => row.verdict)).toEqual(['new', 'fault']);
    const [mark] = await world.sql<{ facts: Record<string, { value: string }> }[]>`
      SELECT facts FROM mark WHERE number = 'P-1'
    `;
    expect(mark!.facts.tint!.value).toBe('blue');
  });
});
