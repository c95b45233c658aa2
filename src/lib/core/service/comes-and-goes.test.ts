import { describe, expect, it } from 'vitest';
import type { Decision } from '../ledger/booking.ts';
import { snapshot } from '../ledger/testing/snapshot.ts';
import { decideIntake } from './intake.ts';
import { decideClaimed } from './leave-on-claim.ts';

const told = (decision: Decision) => {
  if (!decision.ok) return decision.faults.map((fault) => `${fault.code} ${fault.path}`);
  return decision.rows.movements.map(({ mark, quantity }) => `${mark} ${quantity.toFixed()}`);
};

describe('a unit nobody here knows', () => {
  const takeIn = (unit: { product: string; serial: string; lot?: string }, place = 'A') =>
    decideIntake(snapshot({ marks: [{ id: 1, product: 'SER', number: 'S1' }] }), {
      document: 'SJ-1',
      place,
      ...unit
    });

  it('begins its mark held, with nothing asked of its age', () => {
    const decision = takeIn({ product: 'SER', serial: 'NEW' });
    expect(told(decision)).toEqual(['-1 1']);
    expect(decision.ok && decision.rows.changes).toEqual([
      { mark: -1, field: 'state', from: 'usable', to: 'held' }
    ]);
    expect(told(takeIn({ product: 'SIL', serial: 'NEW', lot: 'L1' }))).toHaveLength(1);
  });

  it('is refused where it is known, is no single unit, or has nowhere to lie', () => {
    expect(told(takeIn({ product: 'SER', serial: 's1' }))).toEqual(['mark.duplicate unit']);
    expect(told(takeIn({ product: 'SER', serial: '' }))).toEqual(['mark.missing unit']);
    for (const product of ['LOT', 'BULK'])
      expect(told(takeIn({ product, serial: 'X' }))[0], product).toMatch(
        /^(mark\.missing|number\.malformed) unit$/
      );
    expect(told(takeIn({ product: 'NONE', serial: 'X' }))).toEqual([
      'product.unknown unit.product'
    ]);
    expect(told(takeIn({ product: 'SER', serial: 'X' }, 'NOWHERE'))).toEqual([
      'place.unknown place'
    ]);
    expect(told(takeIn({ product: 'SER', serial: 'X'.repeat(200) }))[0]).toMatch(/^number/);
  });
});

describe('claimed parts', () => {
  const world = snapshot({
    marks: [
      { id: 1, product: 'SER', number: 'S1', state: 'held' },
      { id: 2, product: 'SER', number: 'S2' }
    ],
    stock: [[1, 'A', '1']]
  });
  const leave = (supplier: string, ...serials: string[]) =>
    decideClaimed(world, {
      document: 'CL-1',
      supplier,
      parts: serials.map((serial) => ({ product: 'SER', serial }))
    });

  it('leave from where they lie, held or not; what lies nowhere is left out', () => {
    expect(told(leave('SUP', 'S1', 'S2'))).toEqual(['1 -1']);
    // Named twice, it leaves once.
    expect(told(leave('SUP', 'S1', 'S1'))).toEqual(['1 -1']);
  });

  it('are refused to nobody, to who is no supplier, and under a number nobody knows', () => {
    expect(told(leave('NONE', 'S1'))).toEqual(['partner.unknown supplier']);
    expect(told(leave('CUS', 'S1'))).toEqual(['partner.unknown supplier']);
    expect(told(leave('SUP', 'S9'))).toEqual(['mark.unknown parts[0]']);
  });
});
