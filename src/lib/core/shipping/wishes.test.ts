import { describe, expect, it } from 'vitest';
import { NO_WISHES, lifeMissing, type CustomerWishes } from '../catalogue/wishes.ts';
import { plainPlan } from '../catalogue/plan.ts';
import { Faults } from '../faults/fault.ts';
import { makeSscc } from '../gs1/sscc.ts';
import { quantity } from '../quantity/quantity.ts';
import { snapshot } from '../ledger/testing/snapshot.ts';
import type { KnownMark } from '../ledger/snapshot.ts';
import { fellAway } from './fell-away.ts';
import { decidePacking } from './pack.ts';
import { decideShipment } from './ship.ts';
import { tellWishes, type Going } from './tell-wishes.ts';

const DAY = '2026-11-23';
const wishing = (some: Partial<CustomerWishes>) => new Map([[1, { ...NO_WISHES, ...some }]]);
const going = (number: string, more: Partial<Going> = {}): Going => ({
  product: { id: 1, code: 'LOT', plan: plainPlan('lot') },
  name: `Lot ${number}`,
  number,
  lot: number,
  expires: null,
  untested: false,
  path: `lines[0].marks[${number.slice(1)}]`,
  ...more
});
const told = (goods: Going[], wishes: Partial<CustomerWishes>) => {
  const faults = new Faults();
  tellWishes(goods, wishing(wishes), DAY, faults);
  return faults.list.map((fault) => `${fault.number}: ${fault.message}`);
};

describe('what a customer wishes', () => {
  it('counts the days to run from the day it leaves', () => {
    const wishes = { ...NO_WISHES, leastDays: 30 };
    expect(lifeMissing({ expires: '2026-12-23', life: null }, wishes, DAY)).toBeNull();
    expect(lifeMissing({ expires: '2026-12-22', life: null }, wishes, DAY)).toEqual({
      left: 29,
      wished: 30
    });
    expect(lifeMissing({ expires: null, life: null }, wishes, DAY)).toBeNull();
  });

  it('takes a share of the life it began with, rounded up to whole days, exactly', () => {
    // By hand: 33.3 % of 1,000 days is 333 days; 66.7 % of 100 is 66.7, so 67.
    const share = (leastShare: string) => ({ ...NO_WISHES, leastShare });
    const goods = { expires: '2027-10-22', life: 1000 };
    expect(lifeMissing(goods, share('33.3'), DAY)).toBeNull();
    expect(lifeMissing({ expires: '2027-01-28', life: 100 }, share('66.7'), DAY)).toEqual({
      left: 66,
      wished: 67
    });
  });

  it('names each lot that runs too short, and how much is missing', () => {
    expect(
      told([going('L1', { expires: '2026-12-03' }), going('L2', { expires: '2028-01-01' })], {
        leastDays: 30
      })
    ).toEqual([
      'L1: Lot L1 of LOT runs 10 days more, until 3 Dec 2026, and this customer wishes 30 days at least. Take another. Or go on with a written reason.'
    ]);
  });

  it('tells untested goods only to who wishes tested ones', () => {
    expect(told([going('L1', { untested: true })], { tested: true })).toHaveLength(1);
    expect(told([going('L1', { untested: true })], { oneLot: true })).toEqual([]);
  });

  it('wants one lot of a product: serials count by the lot they are within', () => {
    expect(told([going('L1'), going('L1')], { oneLot: true })).toEqual([]);
    expect(told([going('L1'), going('S9', { lot: 'L2' })], { oneLot: true })).toHaveLength(1);
    expect(
      told([going('S8', { lot: null }), going('S9', { lot: null })], { oneLot: true })
    ).toEqual([]);
  });
});

const lot = (id: number, number: string, more: Partial<KnownMark> = {}) => ({
  id,
  number,
  product: 'LOT',
  ...more
});
const shipping = (lots: string[]) => ({
  document: 'SO-1',
  customer: 'CUS',
  lines: [{ product: 'LOT', marks: lots.map((one) => ({ lot: one, quantity: '1' })) }]
});

describe('goods that do not meet the wishes of their customer', () => {
  const short = {
    marks: [lot(1, 'L1', { expires: '2026-12-01' }), lot(2, 'L2', { expires: '2028-01-01' })],
    stock: [
      [1, 'A', '5'],
      [2, 'A', '5']
    ] as [number, string, string][],
    wishes: wishing({ leastDays: 60 })
  };

  it('do not leave without a reason, and leave with one that is kept', () => {
    const refused = decideShipment(snapshot(short), shipping(['L1', 'L2']));
    expect(refused).toMatchObject({
      ok: false,
      faults: [{ code: 'wish.unmet', number: 'L1', path: 'lines[0].marks[0]', answer: 'reason' }]
    });
    const taken = decideShipment(snapshot(short), {
      ...shipping(['L1', 'L2']),
      reasons: { 'wish.unmet': 'agreed by telephone' }
    });
    expect(taken).toMatchObject({
      ok: true,
      rows: { remarks: [{ code: 'wish.unmet', number: 'L1', reason: 'agreed by telephone' }] }
    });
  });

  it('leave by the reason the promise was made with', () => {
    const granted = [{ code: 'wish.unmet', number: 'L1', reason: 'as promised', approval: null }];
    expect(decideShipment(snapshot({ ...short, granted }), shipping(['L1']))).toMatchObject({
      ok: true,
      rows: { remarks: [{ reason: 'as promised' }] }
    });
  });

  it('are told of in a carton: what stands in it counts for one lot and is not told again', () => {
    const sscc = makeSscc('9520001', 1)!;
    const unit = {
      ...{ id: 5, sscc, kind: 'carton' as const, order: null, shipped: null, pallet: null },
      ...{ cartons: [], contents: new Map([[1, quantity('1')]]) }
    };
    const world = { ...short, units: new Map([[sscc, unit]]) };
    const request = {
      ...{ document: 'SO-1', kind: 'pack' as const, unit: sscc, units: [] },
      lines: [{ product: 'LOT', lot: 'L2', quantity: '1' }]
    };
    const twoLots = decidePacking(
      snapshot({ ...world, wishes: wishing({ oneLot: true, leastDays: 60 }) }),
      request
    );
    expect(twoLots).toMatchObject({ ok: false, faults: [{ code: 'wish.unmet', number: 'LOT' }] });
    expect(decidePacking(snapshot(world), request).ok).toBe(true);
  });
});

describe('a stop of a pick list', () => {
  const fine = { state: 'usable' as const, expires: null, lies: true };
  it('falls away with what became of the goods, the worst first', () => {
    expect(fellAway(fine, DAY)).toBeNull();
    expect(fellAway({ ...fine, expires: DAY }, DAY)).toBeNull();
    expect(fellAway({ ...fine, expires: '2026-11-22' }, DAY)).toBe('expired');
    expect(fellAway({ ...fine, lies: false }, DAY)).toBe('gone');
    expect(fellAway({ state: 'held', expires: '2026-11-22', lies: false }, DAY)).toBe('held');
  });
});
