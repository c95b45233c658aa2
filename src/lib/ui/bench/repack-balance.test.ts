import { describe, expect, it } from 'vitest';
import { packBalance } from './repack-balance.ts';

const weights: Record<string, string> = { 'PACK-3': '3', 'PACK-1': '1', 'PACK-2': '2' };
const weightOf = (product: string) => weights[product] ?? null;

describe('a repack while it is typed', () => {
  // Source: shared design, standards.md, repack (practice): 30 packs of 3 kg = 30 of 1 kg + 30 of 2
  // kg = 90 kg; 30 × 6 = 30 × 2 + 30 × 4 = 180.
  it('balances in kg and in money', () => {
    const balance = packBalance(
      [{ product: 'PACK-3', quantity: '30', unitCost: '6' }],
      [
        { product: 'PACK-1', quantity: '30', unitCost: '2' },
        { product: 'PACK-2', quantity: '30', unitCost: '4' }
      ],
      weightOf
    );
    expect(balance).toEqual({
      in: '90',
      out: '90',
      off: '0',
      costIn: '180.00',
      costOut: '180.00',
      unweighed: []
    });
  });
  it('says what is open, and what cannot be weighed', () => {
    expect(
      packBalance(
        [{ product: 'PACK-3', quantity: '1', unitCost: '' }],
        [
          { product: 'PACK-2', quantity: '1', unitCost: '4' },
          { product: 'BOX', quantity: '1', unitCost: '' }
        ],
        weightOf
      )
    ).toEqual({ in: '3', out: '2', off: '1', costIn: null, costOut: null, unweighed: ['BOX'] });
  });
});
