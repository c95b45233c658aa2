import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { judgeComing } from '../../core/ledger/judge-known.ts';
import { decideReceipt } from '../../core/receiving/receive.ts';
import type { Receipt } from '../../core/ledger/request.ts';
import { readKnownText, knownText } from '../../core/ledger/known-text.ts';
import { check } from '../ledger/book.ts';
import { Order } from '../orders/schemas.ts';
import { putOrder } from '../orders/write-order.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { receive } from './kinds.ts';
import { knownForReceipt } from './known-for-receipt.ts';

let world: World;
let known: string;
/** Written as no part of a moment is, which is told too: one of 44.5 seconds has “4.5” in it. */
const PRICE = '73195.25';
beforeAll(async () => {
  world = await makeWorld();
  const lines = [
    { product: 'LOT', quantity: '10', unitPrice: PRICE },
    { product: 'SER', quantity: '3' }
  ];
  const order = Order.parse({ partner: 'SUP', due: '2030-01-01', lines });
  await putOrder(world.sql, world.actor, 'purchase', 'PO-AWAY', order);
  known = knownText((await knownForReceipt(world.sql, 'PO-AWAY'))!);
});
afterAll(() => world.end());

const receipt = (line: object, more: object = {}) => ({
  document: 'PO-AWAY',
  supplier: 'SUP',
  lines: [{ product: 'LOT', place: 'DOCK', quantity: '10', marks: [{ lot: 'L-1' }], ...line }],
  ...more
});
const away = (request: object) =>
  judgeComing(decideReceipt, readKnownText(known), request as Receipt, new Date());
const here = async (request: object) => {
  const { faults, notes } = await check(world.sql, receive, world.actor, request as never);
  return { faults, notes };
};

/** Receipts good and bad; none of their numbers is in the ledger. */
const RECEIPTS: readonly [string, object][] = [
  ['good', receipt({})],
  ['more than was ordered', receipt({ quantity: '11' })],
  [
    'more than was ordered, with a reason',
    receipt({ quantity: '11' }, { reasons: { 'order.over': 'x' } })
  ],
  ['no number', receipt({ marks: [] })],
  ['half a serial', receipt({ product: 'SER', quantity: '0.5', marks: [{ serial: 'S-1' }] })],
  ['no quantity', receipt({ quantity: 'ten' })],
  ['a number that cannot be printed', receipt({ marks: [{ lot: 'L\u0007' }] })],
  ['a date that is none', receipt({ marks: [{ lot: 'L-1', expires: '2027-02-30' }] })],
  ['no such place', receipt({ place: 'NOWHERE' })],
  ['nothing of that code', receipt({ product: 'NOTHING' })],
  ['another supplier', receipt({}, { supplier: 'NOBODY' })],
  [
    'a serial twice',
    receipt({ product: 'SER', quantity: '2', marks: [{ serial: 'S-1' }, { serial: 's-1' }] })
  ],
  [
    'fewer serials than came',
    receipt({ product: 'SER', quantity: '3', marks: [{ serial: 'S-1' }] })
  ]
];

describe('a receipt judged away from the ledger', () => {
  it.each(RECEIPTS)('is judged as the server judges it: %s', async (_, request) => {
    expect(away(request)).toEqual(await here(request));
  });

  it('finds something wrong with what is wrong, and nothing with what is not', () => {
    expect(away(RECEIPTS[0]![1]).faults).toEqual([]);
    expect(RECEIPTS.slice(3).filter(([, request]) => away(request).faults.length === 0)).toEqual(
      []
    );
  });

  it('does not know what others booked since: the server tells when it is sent', async () => {
    await world.receive('LOT', [{ lot: 'L-9' }], '1');
    const known9 = receipt({ marks: [{ lot: 'L-9', expires: '2031-01-01' }] });
    expect(away(known9).faults).toEqual([]);
  });

  it('is told no prices: not whoever receives may see them', () => {
    expect(known).not.toContain(PRICE);
    expect(known).not.toContain('price');
  });

  it('of no such order nothing is known', async () => {
    expect(await knownForReceipt(world.sql, 'PO-NONE')).toBeNull();
  });
});
