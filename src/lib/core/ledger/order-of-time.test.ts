import { describe, expect, it } from 'vitest';
import { quantity } from '../quantity/quantity.ts';
import { decideShipment } from '../shipping/ship.ts';
import { decideWith } from './decide-with.ts';
import type { LaterMovement } from './snapshot.ts';
import { snapshot } from './testing/snapshot.ts';

// Today is 23 November 2026 in the small world: what is booked is dated then, and what is `later`
// happened after it.
const movement = (event: number, amount: string, day: string): LaterMovement => ({
  ...{ event, kind: quantity(amount).gt(0) ? 'receive' : 'build', document: `D-${event}`, day },
  ...{ at: Date.parse(day) * 1000, quantity: quantity(amount) }
});
const ship = (
  amount: string,
  stock: string,
  later: LaterMovement[],
  more: Parameters<typeof snapshot>[0] = {},
  reasons = {}
) =>
  decideWith(
    decideShipment,
    snapshot({
      marks: [{ id: 11, product: 'LOT', number: 'L1' }],
      stock: [[11, 'A', stock]],
      later: new Map([[11, later]]),
      ...more
    }),
    {
      ...{ document: 'S', customer: 'CUS', reasons },
      lines: [{ product: 'LOT', place: 'A', marks: [{ lot: 'L1', quantity: amount }] }]
    }
  );
const says = (decision: ReturnType<typeof ship>) =>
  decision.ok ? '' : decision.faults.map(({ code, message }) => `${code}: ${message}`).join('\n');

describe('the order of time', () => {
  it('refuses what by its date had not come yet, naming what brought it', () => {
    expect(says(ship('3', '5', [movement(9, '5', '2026-11-24')]))).toBe(
      'time.order: By its date, 23 Nov 2026, none was here of Lot L1 of LOT; more came by receive D-9 of 24 Nov 2026 (event 9). Give the day it was. Or go on with a written reason.'
    );
  });
  it('refuses what lies between two others and takes what the later one took', () => {
    const used = [movement(9, '-4', '2026-11-24'), movement(10, '6', '2026-11-25')];
    // 5 were here on that day, 4 of them were used a day later: no more than 1 could have left.
    expect(says(ship('2', '7', used))).toContain('takes of Lot L1 of LOT what build D-9 of 24 Nov');
    expect(ship('1', '7', used).ok).toBe(true);
  });
  it('counts together what happened at one instant', () => {
    const tied = [movement(9, '-4', '2026-11-24'), movement(10, '6', '2026-11-24')];
    expect(ship('2', '7', tied).ok).toBe(true);
  });
  it('goes on with a written reason, kept with the event; or is only told, or never, by the plan', () => {
    const early = [movement(9, '5', '2026-11-24')];
    const kept = ship('3', '5', early, {}, { 'time.order': 'the receipt was booked late' });
    expect(kept.ok && kept.rows.remarks).toMatchObject([
      { code: 'time.order', reason: 'the receipt was booked late', number: 'L1' }
    ]);
    const answering = (answer: 'stop' | 'note') => ({
      plans: { LOT: { answers: { ...plain, 'out of order': answer } } }
    });
    expect(ship('3', '5', early, answering('note')).ok).toBe(true);
    expect(says(ship('3', '5', early, answering('stop'), { 'time.order': 'no' }))).not.toContain(
      'written reason'
    );
  });
});

const plain = snapshot().products.get('LOT')!.plan.answers;
