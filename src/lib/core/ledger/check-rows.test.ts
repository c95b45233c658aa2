import { describe, expect, it } from 'vitest';
import { quantity } from '../quantity/quantity.ts';
import { emptyRows, type NewMark, type Rows } from './booking.ts';
import { checkRows } from './check-rows.ts';
import { snapshot } from './testing/snapshot.ts';

const known = snapshot({
  marks: [
    { id: 1, product: 'LOT', number: 'L1' },
    { id: 2, product: 'SER', number: 'S1' },
    { id: 3, product: 'LOT', number: 'L2' }
  ],
  stock: [
    [1, 'A', '5'],
    [2, 'A', '1']
  ],
  sales: new Map([
    [
      1,
      [
        {
          event: 8,
          document: 'SO-1',
          day: '2026-11-01',
          partner: 'Customer',
          partnerId: 2,
          quantity: quantity(3)
        }
      ]
    ]
  ])
});
/** A request that names everything, so that each fault has a place to point at. */
const request = { lines: [{ lot: 'L1' }, { serial: 'S1' }, { lot: 'L2' }, { serial: 'NEW' }] };
const checked = (rows: Partial<Rows>): string[] =>
  checkRows(known, { ...emptyRows(), ...rows }, request).map(
    (fault) => `${fault.code} ${fault.path}`
  );
const serial = (number: string): NewMark => ({
  productId: 2,
  kind: 'serial',
  number,
  lot: null,
  supplierNumber: null,
  madeOn: null,
  expiresOn: null,
  retestOn: null,
  warrantyMonths: null,
  facts: {}
});
const moved = (mark: number, amount: string, placeId = 1) => ({
  mark,
  placeId,
  quantity: quantity(amount)
});
const tied = (mark: number, amount = '1') => ({ mark, quantity: quantity(amount) });

describe('what no booking may do', () => {
  it('lets through what is right', () => {
    expect(
      checked({
        newMarks: [serial('NEW')],
        movements: [moved(1, '-5'), moved(-1, '1')],
        transformations: [{ inputs: [tied(1, '5')], outputs: [tied(-1)] }],
        changes: [
          { mark: 1, field: 'expires_on', from: null, to: '2030-01-01' },
          { mark: 1, field: 'made_on', from: null, to: '2026-01-01' }
        ]
      })
    ).toEqual([]);
  });
  it('changes a field of a mark twice; two facts are two fields', () => {
    const change = { mark: 1, field: 'expires_on' as const, from: null, to: '2030-01-01' };
    expect(checked({ changes: [change, change] })).toEqual(['mark.duplicate lines[0]']);
    const fact = { mark: 1, field: 'fact' as const, from: null, to: 'x' };
    expect(
      checked({
        changes: [
          { ...fact, fact: 'a' },
          { ...fact, fact: 'b' }
        ]
      })
    ).toEqual([]);
    expect(
      checked({
        changes: [
          { ...fact, fact: 'a' },
          { ...fact, fact: 'A' }
        ]
      })
    ).toEqual(['mark.duplicate lines[0]']);
  });
  it('bears a number twice, or one that is known', () => {
    expect(checked({ newMarks: [serial('NEW'), serial('new')] })).toEqual([
      'mark.duplicate lines[3]'
    ]);
    expect(checked({ newMarks: [serial('s1')] })).toEqual(['mark.duplicate lines[1]']);
  });
  it('books half a serial, or finer than a product is counted', () => {
    expect(checked({ movements: [moved(2, '-0.5')] })).toEqual(['quantity.not-whole lines[1]']);
    expect(checked({ movements: [moved(1, '-0.123')] })).toEqual(['quantity.not-whole lines[0]']);
    expect(
      checked({ packings: [{ unit: 5, mark: 1, quantity: quantity('-0.123456789') }] })
    ).toEqual(['quantity.not-whole lines[0]']);
  });
  it('books nothing of something', () => {
    expect(checked({ movements: [moved(1, '0')] })).toEqual(['quantity.mismatch lines[0]']);
    expect(checked({ transformations: [{ inputs: [tied(1, '-1')], outputs: [] }] })).toEqual([
      'quantity.mismatch lines[0]'
    ]);
  });
  it('makes something of itself, or names it twice on one side', () => {
    expect(checked({ transformations: [{ inputs: [tied(1)], outputs: [tied(1)] }] })).toEqual([
      'mark.duplicate lines[0]'
    ]);
    expect(
      checked({ transformations: [{ inputs: [tied(1), tied(1)], outputs: [tied(3)] }] })
    ).toEqual(['mark.duplicate lines[0]']);
  });
  it('takes more from a place than lies there, over all its rows', () => {
    expect(checked({ movements: [moved(1, '-3'), moved(1, '-3')] })).toEqual([
      'stock.short lines[0]'
    ]);
    expect(checked({ movements: [moved(1, '-1', 2)] })).toEqual(['stock.short lines[0]']);
    expect(
      checked({
        movements: [moved(1, '-3')],
        scrapped: { movements: [moved(1, '-3')], reason: 'broken' }
      })
    ).toEqual(['stock.short lines[0]']);
  });
  it('takes back more than left by a shipment, over all its rows', () => {
    const back = { mark: 1, shipmentId: 8, quantity: quantity(2) };
    expect(checked({ returned: [back] })).toEqual([]);
    expect(checked({ returned: [back, back] })).toEqual(['quantity.mismatch lines[0]']);
  });
});
