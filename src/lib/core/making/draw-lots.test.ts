import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { FactValues } from '../catalogue/facts.ts';
import { Faults } from '../faults/fault.ts';
import { Availability } from '../ledger/draw.ts';
import { snapshot } from '../ledger/testing/snapshot.ts';
import { formatQuantity, quantity, total } from '../quantity/quantity.ts';
import { drawLots } from './draw-lots.ts';

/** A lot as a test tells it; the day of the world is 23 November 2026. */
interface Lot {
  number: string;
  there: string;
  expires?: string | null;
  state?: 'usable' | 'held' | 'rejected';
  place?: string;
  revision?: string;
}

/** What is drawn of product LOT, as `A 3, B 2`; the first fault where it is short. */
function draw(lots: readonly Lot[], wanted: string, revision: string | null = null): string {
  const factsOf = (revision: string | undefined): FactValues =>
    revision === undefined ? {} : { revision: { value: revision, unit: '' } };
  const world = snapshot({
    marks: lots.map(({ number, expires = null, state = 'usable', revision: of }, at) => ({
      ...{ id: at + 1, product: 'LOT', number, expires, state },
      facts: factsOf(of)
    })),
    stock: lots.map(({ there, place = 'A' }, at) => [at + 1, place, there])
  });
  const faults = new Faults();
  const product = world.products.get('LOT')!;
  const drawn = drawLots(
    ...([world, new Availability(world), product, quantity(wanted), null] as const),
    ...([revision, 'inputs[0]', faults] as const)
  );
  if (!drawn) return faults.list[0]!.message;
  for (const { quantity: amount, takings } of drawn)
    expect(total(takings.map((one) => one.quantity)).eq(amount)).toBe(true);
  return drawn
    .map(
      ({ ref, quantity: amount }) => `${lots[Number(ref) - 1]!.number} ${formatQuantity(amount)}`
    )
    .join(', ');
}

describe('what is drawn by itself', () => {
  it('is what expires first, then the next', () => {
    const lots = [
      { number: 'LATE', there: '5', expires: '2027-06-01' },
      { number: 'SOON', there: '5', expires: '2026-12-01' },
      { number: 'NEVER', there: '5' }
    ];
    expect(draw(lots, '7')).toBe('SOON 5, LATE 2');
    expect(draw(lots, '12')).toBe('SOON 5, LATE 5, NEVER 2');
  });

  it('is nothing that is held, rejected, expired or in quarantine', () => {
    const lots: Lot[] = [
      { number: 'HELD', there: '5', state: 'held' },
      { number: 'REJECTED', there: '5', state: 'rejected' },
      { number: 'EXPIRED', there: '5', expires: '2026-11-22' },
      { number: 'APART', there: '5', place: 'Q' },
      { number: 'TODAY', there: '5', expires: '2026-11-23' }
    ];
    expect(draw(lots, '5')).toBe('TODAY 5');
    expect(draw(lots, '6')).toContain('6 each are to be drawn and 5 are usable on hand');
  });

  it('is of the revision the bill asks for, and says so where that is short', () => {
    const lots: Lot[] = [
      { number: 'OLD', there: '5', revision: 'B' },
      { number: 'NEW', there: '5', revision: 'c' },
      { number: 'NOT SAID', there: '5' }
    ];
    expect(draw(lots, '5', 'C')).toBe('NEW 5');
    expect(draw(lots, '6', 'C')).toContain('5 are usable on hand in revision C');
  });

  it('is exactly what is wanted where there is as much, never from a later lot before an earlier', () => {
    const lot = fc.record({
      there: fc.integer({ min: 0, max: 500 }).map((n) => (n / 100).toString()),
      expires: fc.option(fc.integer({ min: 24, max: 30 }).map((day) => `2026-11-${day}`)),
      state: fc.constantFrom('usable' as const, 'usable' as const, 'held' as const)
    });
    const wantedAmount = fc.integer({ min: 1, max: 1500 }).map((n) => n / 100);
    fc.assert(
      fc.property(fc.array(lot, { maxLength: 8 }), wantedAmount, (given, wanted) => {
        const lots = given.map((one, at) => ({ ...one, number: `L${at}` }));
        const usable = lots.filter(({ state }) => state === 'usable');
        const cents = (text: string): number => Math.round(Number(text) * 100);
        const all = usable.reduce((sum, { there }) => sum + cents(there), 0);
        const said = draw(lots, String(wanted));
        if (all < cents(String(wanted))) {
          expect(said).toContain('are usable on hand');
          return;
        }
        const takes = new Map(said.split(', ').map((one) => one.split(' ') as [string, string]));
        const sum = [...takes.values()].reduce((before, amount) => before + cents(amount), 0);
        expect(sum).toBe(cents(String(wanted)));
        // Whatever expires before the last that is taken is taken whole.
        const end = ({ expires }: { expires: string | null }): string => expires ?? '9999';
        const last = usable.filter(({ number }) => takes.has(number)).map(end);
        const latest = last.sort().at(-1)!;
        for (const one of usable.filter((each) => end(each) < latest && cents(each.there) > 0))
          expect(takes.get(one.number)).toBe(one.there);
      })
    );
  });
});
