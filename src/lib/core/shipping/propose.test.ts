import solver from 'javascript-lp-solver';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NO_WISHES, type Wishes } from '../catalogue/wishes.ts';
import { propose, unfit, type Offered } from './propose.ts';

const DAY = '2026-11-23';
const offer = (id: number, onHand: string, more: Partial<Offered> = {}): Offered => ({
  id,
  number: `L${id}`,
  lot: null,
  expires: null,
  since: '2026-01-01',
  state: 'usable',
  onHand,
  promised: '0',
  verdict: null,
  life: null,
  ...more
});
const one = (
  wanted: string,
  offers: Offered[],
  rule: Parameters<typeof propose>[2] = 'first expired',
  wishes: Partial<Wishes> = {}
) => propose([{ line: 1, wanted }], offers, rule, { ...NO_WISHES, ...wishes }, DAY);
const picks = (proposal: ReturnType<typeof propose>, line = 0) =>
  proposal.lines[line]!.picks.map((pick) => `${pick.number}:${pick.quantity}`).join(' ');
const why = (proposal: ReturnType<typeof propose>) => proposal.considered.map((one) => one.why);

describe('a proposal', () => {
  const lots = [
    offer(1, '4', { expires: '2027-06-01', since: '2026-02-01' }),
    offer(2, '3', { expires: '2027-01-01', since: '2026-05-01' }),
    offer(3, '9', { since: '2026-01-01' })
  ];
  it('takes what expires first, what came in first, or as few lots as will do', () => {
    expect(picks(one('6', lots))).toBe('L2:3 L1:3');
    expect(picks(one('6', lots, 'first in'))).toBe('L3:6');
    expect(picks(one('12', lots, 'fewest lots'))).toBe('L3:9 L2:3');
    expect(picks(one('3.5', lots, 'fewest lots'))).toBe('L1:3.5');
  });
  it('leaves out what may not go, with why', () => {
    const proposal = one(
      '1',
      [
        offer(1, '5', { state: 'held' }),
        offer(2, '5', { expires: '2026-11-22' }),
        offer(3, '5', { verdict: 'does not conform' }),
        offer(4, '5', { promised: '5' }),
        offer(5, '5', { verdict: 'untested' }),
        offer(6, '5')
      ],
      'first expired',
      { tested: true }
    );
    expect(why(proposal)).toEqual([
      'held',
      'expired',
      'does not conform',
      'promised',
      'untested',
      'taken'
    ]);
    expect(one('9', [offer(1, '5', { promised: '2' })]).lines[0]).toMatchObject({
      picks: [{ quantity: '3' }],
      short: '6'
    });
  });
  // Remaining life at month ends and leap days, by ISO 8601 calendar dates: 23 Nov 2026 + 98 days =
  // 1 Mar 2027; + 462 days = 28 Feb 2028, + 463 = 29 Feb 2028.
  it('obeys the least remaining life, in days or as a share, to the day', () => {
    expect(
      unfit(offer(1, '1', { expires: '2027-03-01' }), { ...NO_WISHES, leastDays: 98 }, DAY)
    ).toBeNull();
    expect(
      unfit(offer(1, '1', { expires: '2027-02-28' }), { ...NO_WISHES, leastDays: 98 }, DAY)
    ).toBe('too little life');
    expect(
      unfit(offer(1, '1', { expires: '2028-02-29' }), { ...NO_WISHES, leastDays: 463 }, DAY)
    ).toBeNull();
    expect(
      unfit(offer(1, '1', { expires: '2028-02-28' }), { ...NO_WISHES, leastDays: 463 }, DAY)
    ).toBe('too little life');
    expect(
      unfit(
        offer(1, '1', { expires: '2027-02-01', life: 140 }),
        { ...NO_WISHES, leastShare: '50' },
        DAY
      )
    ).toBeNull();
    expect(
      unfit(
        offer(1, '1', { expires: '2027-01-31', life: 140 }),
        { ...NO_WISHES, leastShare: '50' },
        DAY
      )
    ).toBe('too little life');
    expect(unfit(offer(1, '1', { expires: DAY }), NO_WISHES, DAY)).toBeNull();
  });
  it('keeps one lot only where the customer wishes it', () => {
    expect(picks(one('4', lots, 'first expired', { oneLot: true }))).toBe('L1:4');
    const none = one('20', lots, 'first expired', { oneLot: true });
    expect([picks(none), none.lines[0]!.short, why(none)[0]]).toEqual([
      '',
      '20',
      'not enough for one lot'
    ]);
  });
  it('takes a lot that is named, and lets later lines draw on what is left', () => {
    const proposal = propose(
      [
        { line: 1, wanted: '2', named: 'l1' },
        { line: 2, wanted: '4' },
        { line: 3, wanted: '1', named: 'NONE' }
      ],
      lots,
      'first expired',
      NO_WISHES,
      DAY
    );
    expect([picks(proposal), picks(proposal, 1), proposal.lines[2]!.short]).toEqual([
      'L1:2',
      'L2:3 L1:1',
      '1'
    ]);
  });
});

const random = fc
  .array(
    fc.record({
      onHand: fc.integer({ min: 1, max: 9 }),
      month: fc.integer({ min: 1, max: 6 }),
      promised: fc.integer({ min: 0, max: 4 }),
      held: fc.boolean()
    }),
    { minLength: 1, maxLength: 6 }
  )
  .map((list) =>
    list.map((row, index) =>
      offer(index + 1, String(row.onHand), {
        expires: `2027-0${row.month}-15`,
        promised: String(row.promised),
        state: row.held && index % 3 === 0 ? 'held' : 'usable'
      })
    )
  );
const freeOf = (lot: Offered) =>
  lot.state === 'usable' ? Math.max(0, Number(lot.onHand) - Number(lot.promised)) : 0;

describe('beside outside judges', () => {
  it('takes the same total as an exhaustive search, and never a later lot while an earlier is left', () => {
    fc.assert(
      fc.property(random, fc.integer({ min: 1, max: 20 }), (lots, wanted) => {
        const proposal = one(String(wanted), lots);
        const taken = new Map(
          proposal.lines[0]!.picks.map((pick) => [pick.id, Number(pick.quantity)])
        );
        // Every way to fill the line, lot by lot: the most that can be had, and of those the least
        // days to run in sum.
        let best = { total: -1, cost: Infinity };
        const search = (at: number, total: number, cost: number): void => {
          if (total > best.total || (total === best.total && cost < best.cost))
            best = { total, cost };
          if (at < lots.length)
            for (let part = 0; part <= Math.min(freeOf(lots[at]!), wanted - total); part++)
              search(at + 1, total + part, cost + part * Number(lots[at]!.expires!.slice(5, 7)));
        };
        search(0, 0, 0);
        const total = [...taken.values()].reduce((sum, amount) => sum + amount, 0);
        const cost = [...taken].reduce(
          (sum, [id, amount]) => sum + amount * Number(lots[id - 1]!.expires!.slice(5, 7)),
          0
        );
        expect([total, cost]).toEqual([best.total, best.cost]);
        for (const later of lots)
          for (const earlier of lots)
            if (earlier.expires! < later.expires! && (taken.get(later.id) ?? 0) > 0)
              expect(taken.get(earlier.id) ?? 0).toBe(freeOf(earlier));
      }),
      { numRuns: 150 }
    );
  });
  it('takes the fewest lots an exhaustive search finds', () => {
    fc.assert(
      fc.property(random, fc.integer({ min: 1, max: 20 }), (lots, wanted) => {
        const most = Math.min(
          wanted,
          lots.reduce((sum, lot) => sum + freeOf(lot), 0)
        );
        const proposal = one(String(wanted), lots, 'fewest lots');
        let fewest = Infinity;
        for (let mask = 0; mask < 1 << lots.length; mask++) {
          const chosen = lots.filter((_, index) => mask & (1 << index));
          if (chosen.reduce((sum, lot) => sum + freeOf(lot), 0) >= most)
            fewest = Math.min(fewest, chosen.filter((lot) => freeOf(lot) > 0).length);
        }
        expect(proposal.lines[0]!.picks.reduce((sum, pick) => sum + Number(pick.quantity), 0)).toBe(
          most
        );
        expect(proposal.lines[0]!.picks).toHaveLength(fewest);
      }),
      { numRuns: 200 }
    );
  });
  // A linear-programming package on larger cases: as much as can be had, and for that the least sum
  // of days to run.
  it('is as good as a linear program finds on larger cases', () => {
    for (let seed = 1; seed <= 6; seed++) {
      const next = (() => {
        let state = seed * 7919;
        return () => (state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648;
      })();
      const days = Array.from({ length: 60 }, () => 10 + Math.floor(next() * 300));
      const lots = days.map((left, index) =>
        offer(index + 1, String(1 + Math.floor(next() * 20)), {
          expires: new Date(Date.parse(DAY) + left * 86_400_000).toISOString().slice(0, 10)
        })
      );
      const wanted = 150;
      const model = {
        optimize: 'cost',
        opType: 'min' as const,
        constraints: {
          total: { equal: wanted },
          ...Object.fromEntries(lots.map((lot) => [`has${lot.id}`, { max: Number(lot.onHand) }]))
        },
        variables: Object.fromEntries(
          lots.map((lot, index) => [
            `x${lot.id}`,
            { total: 1, cost: days[index]!, [`has${lot.id}`]: 1 }
          ])
        )
      };
      const best = solver.Solve(model as never) as unknown as { feasible: boolean; result: number };
      const proposal = one(String(wanted), lots);
      expect(best.feasible).toBe(true);
      expect(proposal.lines[0]!.short).toBe('0');
      expect(
        proposal.lines[0]!.picks.reduce(
          (sum, pick) => sum + Number(pick.quantity) * days[pick.id - 1]!,
          0
        )
      ).toBeCloseTo(best.result, 6);
    }
  });
});
