import { describe, expect, it } from 'vitest';
import { plainPlan, WAYS, type MarkingPlan } from '../catalogue/plan.ts';
import { tryPlan } from './try-plan.ts';

const DAY = '2026-11-23';
const FRESH: MarkingPlan = plainPlan('lot', { shelfLifeDays: 10 });

describe('a plan tried with nothing booked', () => {
  it('fills in what it computes, from the day it was made', () => {
    const given = { lot: 'L1', quantity: '5', made: '2026-11-20' };
    expect(tryPlan(FRESH, 'receive', given, DAY)).toMatchObject({
      ...{ ok: true, faults: [] },
      filled: { made: '2026-11-20', expires: '2026-11-30' }
    });
  });

  it('of what is made here counts from the day of the build', () => {
    expect(tryPlan(FRESH, 'output', { lot: 'L1', quantity: '5' }, DAY)).toMatchObject({
      ok: true,
      filled: { expires: '2026-12-03' }
    });
  });

  it('refuses what it asks for and does not get, in words about “it”', () => {
    const tried = tryPlan(plainPlan('serial'), 'receive', { quantity: '2' }, DAY);
    expect(tried.ok).toBe(false);
    expect(tried.faults[0]!.message).toMatch(/^It needs a serial here\./);
    expect(JSON.stringify(tried)).not.toMatch(/\bIT\b|the product/);
  });

  it('lets goods in without a number where that may come later', () => {
    const later = { ...plainPlan('serial'), asks: WAYS['only when it is shipped'] };
    expect(tryPlan(later, 'receive', { quantity: '3' }, DAY).ok).toBe(true);
  });

  it('checks a fact against its limits', () => {
    const plan: MarkingPlan = {
      ...FRESH,
      facts: [
        {
          ...{ name: 'weight', kind: 'number', unit: 'g', required: true },
          ...{ least: '10', most: '20', choices: [] }
        }
      ]
    };
    const weighing = (weight: string) =>
      tryPlan(plan, 'receive', { lot: 'L1', quantity: '1', 'fact:weight': weight }, DAY);
    expect(weighing('15').ok).toBe(true);
    expect(
      weighing('25')
        .faults.map(({ message }) => message)
        .join()
    ).toMatch(/weight.*20/i);
    expect(weighing('').ok).toBe(false);
  });
});
