import { describe, expect, it } from 'vitest';
import { Faults } from '../faults/fault.ts';
import { quantity } from '../quantity/quantity.ts';
import { checkOrder } from './order-check.ts';
import type { KnownOrder } from './snapshot.ts';
import { snapshot } from './testing/snapshot.ts';

const amounts = (ordered: string, most: string, done: string) => ({
  ...{ ordered: quantity(ordered), most: quantity(most), done: quantity(done) }
});
/** An order for 100 of LOT (105 at most), 90 of them booked. */
const ORDER: KnownOrder = {
  ...{ id: 1, number: 'O-1', closed: false, partner: 'SUP', announced: new Set(), named: 0 },
  ...{ lines: new Map([[1, amounts('100', '105', '90')]]), bill: null }
};

/** What is said against rows of product and quantity; notes begin with an i. */
function against(
  rows: readonly [product: string, quantity: string][],
  order: KnownOrder | null = ORDER,
  { partner = 'SUP', beyond = 'refuse' as 'refuse' | 'note' } = {}
): string[] {
  const world = snapshot({ order });
  const faults = new Faults();
  const booked = rows.map(([code, amount], at) => ({
    ...{ product: world.products.get(code)!, quantity: quantity(amount), path: `lines[${at}]` }
  }));
  checkOrder(world, booked, partner, beyond, faults);
  return [
    ...faults.list.map(({ code, path }) => `${code} at ${path}`),
    ...faults.notes.map(({ path, message }) => `i ${path}: ${message}`)
  ];
}

describe('a booking against its order', () => {
  it('passes up to what is left, and where its document is no order', () => {
    expect(against([['LOT', '10']])).toEqual([]);
    expect(against([['SER', '999']], null)).toEqual([]);
  });

  it('adds up what its rows have of one product, told at the first', () => {
    const rows: [string, string][] = [
      ['LOT', '6'],
      ['LOT', '10']
    ];
    expect(against(rows)).toEqual(['quantity.mismatch at lines[0]']);
  });

  it('says what the tolerance lets in, and refuses what it does not', () => {
    expect(against([['LOT', '15']])).toEqual([
      expect.stringMatching(/^i lines\[0\]: 100 each of LOT were ordered and 90 are booked, so 10 /)
    ]);
    expect(against([['LOT', '15.01']])).toEqual(['quantity.mismatch at lines[0]']);
  });

  it('of more than is made only says it', () => {
    expect(against([['LOT', '40']], ORDER, { beyond: 'note' })).toEqual([
      expect.stringMatching(/^i lines\[0\]: .*this sheet has 40\.$/)
    ]);
  });

  it('leaves nothing below nothing where more is booked than was ordered', () => {
    const over = { ...ORDER, lines: new Map([[1, amounts('100', '105', '104')]]) };
    const [said] = against([['LOT', '1']], over);
    expect(said).toContain('so 0 are left; this sheet has 1');
  });

  it('refuses what was not ordered, another partner, and an order that is closed', () => {
    expect(against([['SER', '1']])).toEqual(['mark.wrong-product at lines[0]']);
    expect(against([['LOT', '1']], ORDER, { partner: 'CUS' })).toEqual([
      'partner.unknown at document'
    ]);
    expect(against([['LOT', '1']], ORDER, { partner: 'sup' })).toEqual([]);
    expect(against([['SER', '1']], { ...ORDER, closed: true })).toEqual([
      'order.closed at document'
    ]);
  });

  it('takes what the order’s bill makes besides', () => {
    const bill = {
      ...{ product: 'LOT', version: 1, validFrom: '2026-01-01', batch: null, note: '', parts: [] },
      coProducts: [{ product: 'Ser', quantity: '1', share: '5' }]
    };
    const order = { ...ORDER, bill: { bill, ids: new Map([['SER', 2]]), latest: 1 } };
    expect(against([['SER', '3']], order)).toEqual([]);
    expect(against([['SIL', '3']], order)).toEqual(['mark.wrong-product at lines[0]']);
  });
});
