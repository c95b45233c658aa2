import { describe, expect, it } from 'vitest';
import type { Decision, Rows } from '../ledger/booking.ts';
import type { CountDifference } from '../ledger/request.ts';
import { snapshot } from '../ledger/testing/snapshot.ts';
import { decideCorrection } from './correct.ts';
import { decideCount } from './decide-count.ts';

const rowsOf = (decision: Decision): Rows => {
  if (!decision.ok) throw new Error(decision.faults.map((fault) => fault.message).join('\n'));
  return decision.rows;
};
const faultsOf = (decision: Decision): string[] =>
  decision.ok ? [] : decision.faults.map((fault) => `${fault.code} ${fault.path}`);
const moves = (decision: Decision) =>
  rowsOf(decision).movements.map((row) => [row.mark, row.placeId, row.quantity.toFixed()]);

const GONE = { document: 'D-1', day: '2026-11-01', partner: 'Ferries', into: null };
const world = (more: Parameters<typeof snapshot>[0] = {}) =>
  snapshot({
    marks: [
      { id: 1, product: 'LOT', number: 'L1' },
      { id: 2, product: 'SER', number: 'HERE' },
      { id: 3, product: 'SER', number: 'THERE' },
      { id: 4, product: 'SER', number: 'LOST' },
      { id: 5, product: 'SER', number: 'SOLD' }
    ],
    stock: [
      [1, 'A', '10'],
      [2, 'A', '1'],
      [3, 'B', '1']
    ],
    gone: new Map([
      [4, { ...GONE, kind: 'loss' }],
      [5, { ...GONE, kind: 'ship' }]
    ]),
    ...more
  });
const line = (more: Partial<CountDifference>): CountDifference => ({
  product: 'SER',
  place: 'A',
  counted: '1',
  seen: '0',
  ...more
});
const approve = (lines: CountDifference[], known = world()) =>
  decideCount(known, { document: 'C', reason: 'yearly', lines });

describe('what a count comes to', () => {
  it('is by how much a lot was off when it was counted, whatever moved since', () => {
    const lot = { product: 'LOT', lot: 'L1', counted: '11.5', seen: '14' };
    expect(moves(approve([line(lot)]))).toEqual([[1, 1, '-2.5']]);
    expect(moves(approve([line({ ...lot, counted: '15' })]))).toEqual([[1, 1, '1']]);
  });

  it('asks for a recount where less is left than was missing', () => {
    const lot = { product: 'LOT', lot: 'L1', counted: '1', seen: '14' };
    expect(faultsOf(approve([line(lot)]))).toEqual(['stock.short lines[0]']);
  });

  it('takes a missing serial away only while it is still there by the ledger', () => {
    const gone = { counted: '0', seen: '1' };
    expect(moves(approve([line({ serial: 'HERE', ...gone })]))).toEqual([[2, 1, '-1']]);
    // Counted as missing at A; meanwhile somebody booked it to B.
    expect(moves(approve([line({ serial: 'THERE', ...gone })]))).toEqual([]);
  });

  it('carries a serial over that was found elsewhere, also where it was counted as missing', () => {
    const found = line({ serial: 'THERE' });
    const missing = line({ serial: 'THERE', place: 'B', counted: '0', seen: '1' });
    for (const lines of [[found], [missing, found]])
      expect(moves(approve(lines))).toEqual([
        [3, 2, '-1'],
        [3, 1, '1']
      ]);
  });

  it('adds nothing where a serial found has been booked there since', () => {
    expect(moves(approve([line({ serial: 'HERE' })]))).toEqual([]);
  });

  it('brings a lost serial back, and refuses one that is somewhere else for good', () => {
    expect(moves(approve([line({ serial: 'LOST' })]))).toEqual([[4, 1, '1']]);
    const sold = approve([line({ serial: 'SOLD' })]);
    expect(!sold.ok && sold.faults).toMatchObject([
      { code: 'mark.duplicate', message: expect.stringContaining('it was shipped to Ferries') }
    ]);
  });

  it('makes what was never known, with the cost that is given, and says so', () => {
    const decision = approve([
      line({ product: 'LOT', lot: 'NEW', counted: '3', expires: '2027-01-01', unitCost: '2.5' })
    ]);
    const rows = rowsOf(decision);
    expect(rows.newMarks).toMatchObject([{ number: 'NEW', expiresOn: '2027-01-01' }]);
    expect(rows.movements[0]!.unitCost!.toFixed()).toBe('2.5');
    expect(decision.notes[0]!.message).toContain('was never known');
    const within = approve([line({ product: 'SIL', serial: 'NEW' })]);
    expect(faultsOf(within)).toEqual(['mark.missing lines[0]']);
    const undated = approve([line({ product: 'FRESH', lot: 'NEW', counted: '3' })]);
    expect(faultsOf(undated)).toEqual(['date.missing lines[0]']);
  });

  it('lets what is found lie in quarantine first where the plan wishes it', () => {
    const base = world({ plans: { SER: { foundTo: 'quarantine' } } });
    const places = new Map(base.places).set('Q', {
      ...base.places.get('A')!,
      id: 9,
      code: 'Q',
      quarantine: true
    });
    expect(moves(approve([line({ serial: 'LOST' })], { ...base, places }))).toEqual([[4, 9, '1']]);
  });

  it('sets nothing free that lies in quarantine', () => {
    const base = world();
    const places = new Map(base.places).set('B', { ...base.places.get('B')!, quarantine: true });
    expect(faultsOf(approve([line({ serial: 'THERE' })], { ...base, places }))).toEqual([
      'place.quarantine lines[0]'
    ]);
  });
});

describe('a gain', () => {
  const gain = (lines: Parameters<typeof decideCorrection>[1]['lines']) =>
    decideCorrection(world(), { document: 'G', kind: 'gain', lines });

  it('brings a lost serial back once, and no serial that is on hand', () => {
    const lost = { product: 'SER', place: 'B', serial: 'LOST' };
    expect(moves(gain([lost]))).toEqual([[4, 2, '1']]);
    expect(faultsOf(gain([lost, { ...lost, place: 'A' }]))).toEqual(['mark.duplicate lines[1]']);
    expect(faultsOf(gain([{ ...lost, serial: 'HERE' }]))).toEqual(['mark.duplicate lines[0]']);
  });

  it('makes a lot that was never known, and takes no cost that is none', () => {
    const lot = { product: 'LOT', place: 'A', lot: 'NEW', quantity: '2' };
    expect(moves(gain([{ ...lot, unitCost: '1.25' }]))).toEqual([[-1, 1, '2']]);
    expect(faultsOf(gain([{ ...lot, unitCost: '1e400' }]))).toEqual([
      'quantity.mismatch lines[0].unitCost'
    ]);
  });
});
