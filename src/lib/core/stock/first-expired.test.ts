import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { quantity } from '../quantity/quantity.ts';
import { firstExpiredFirst, type Candidate } from './first-expired.ts';

const lot = (
  id: number,
  amount: number,
  expires: string | null,
  more: Partial<Candidate> = {}
): Candidate => ({
  id,
  number: `L${id}`,
  quantity: String(amount),
  expires,
  since: '2026-01-01',
  state: 'usable',
  ...more
});

describe('first expired first out', () => {
  it('takes what expires soonest, over several lots where one does not suffice', () => {
    const proposal = firstExpiredFirst(
      [lot(1, 10, null), lot(2, 5, '2027-01-01'), lot(3, 4, '2026-12-01')],
      quantity(7),
      '2026-11-23'
    );
    expect(proposal.picks.map((pick) => [pick.id, pick.quantity])).toEqual([
      [3, '4'],
      [2, '3']
    ]);
    expect(proposal.left).toEqual([{ id: 1, number: 'L1', why: 'not needed' }]);
  });

  it('says why a lot is left, and what is short', () => {
    const proposal = firstExpiredFirst(
      [
        lot(1, 10, '2026-11-22'),
        lot(2, 5, '2027-01-01', { state: 'held' }),
        lot(3, 4, '2026-11-23')
      ],
      quantity(7),
      '2026-11-23'
    );
    expect(proposal.picks.map((pick) => pick.id)).toEqual([3]);
    expect(proposal.short).toBe('3');
    expect(proposal.left.map(({ id, why }) => [id, why])).toEqual([
      [1, 'expired'],
      [2, 'held']
    ]);
  });

  // Against an exhaustive search: of all ways to take the amount, none has a smaller sum of (expiry
  // rank × quantity).
  it('is the best of all ways to take the amount (exhaustive search)', () => {
    const small = fc.array(
      fc.record({ amount: fc.integer({ min: 1, max: 4 }), month: fc.integer({ min: 1, max: 5 }) }),
      { minLength: 1, maxLength: 4 }
    );
    fc.assert(
      fc.property(small, fc.integer({ min: 1, max: 10 }), (lots, wanted) => {
        const candidates = lots.map(({ amount, month }, index) =>
          lot(index, amount, `2027-0${month}-01`)
        );
        const cost = (taken: number[]) =>
          taken.reduce((sum, amount, index) => sum + amount * lots[index]!.month, 0);
        const proposal = firstExpiredFirst(candidates, quantity(wanted), '2026-11-23');
        const ours = lots.map((_, index) =>
          Number(proposal.picks.find((pick) => pick.id === index)?.quantity ?? 0)
        );
        const reachable = Math.min(
          wanted,
          lots.reduce((sum, { amount }) => sum + amount, 0)
        );
        let best = Infinity;
        const search = (at: number, taken: number[], open: number): void => {
          if (at === lots.length) {
            if (open === 0) best = Math.min(best, cost(taken));
            return;
          }
          for (let amount = 0; amount <= Math.min(lots[at]!.amount, open); amount++)
            search(at + 1, [...taken, amount], open - amount);
        };
        search(0, [], reachable);
        expect(ours.reduce((sum, amount) => sum + amount, 0)).toBe(reachable);
        expect(cost(ours)).toBe(best);
      }),
      { numRuns: 300 }
    );
  });
});
