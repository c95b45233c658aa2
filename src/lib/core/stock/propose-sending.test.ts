import { describe, expect, it } from 'vitest';
import { proposeSending, type Sendable } from './propose-sending.ts';

const lot = (id: number, quantity: string, promised = '0'): Sendable => ({
  id,
  kind: 'lot',
  product: 'GUM',
  quantity,
  promised
});
const taken = (rows: readonly Sendable[], wanted: Record<string, string>) => {
  const { take, short } = proposeSending(rows, new Map(Object.entries(wanted)));
  return [take.map(({ row, quantity }) => [row.id, quantity]), short];
};

describe('what to take for a transfer', () => {
  it('is taken in the order given until there is enough', () => {
    const rows = [lot(1, '4'), lot(2, '2.5'), lot(3, '9')];
    expect(taken(rows, { GUM: '6' })).toEqual([
      [
        [1, '4'],
        [2, '2']
      ],
      []
    ]);
  });

  it('leaves here what is promised of a lot, also where it lies at two places', () => {
    // 5 and 5 of one lot, 7 of them promised: 3 may go, wherever they are taken.
    expect(taken([lot(1, '5', '7'), lot(1, '5', '7')], { GUM: '9' })).toEqual([
      [[1, '3']],
      [{ product: 'GUM', quantity: '6' }]
    ]);
  });

  it('takes no half serial, and says what is not to be had', () => {
    const serial = { ...lot(1, '1'), kind: 'serial' as const, product: 'TERN' };
    expect(taken([serial], { TERN: '0.5', OAR: '2' })).toEqual([
      [],
      [
        { product: 'TERN', quantity: '0.5' },
        { product: 'OAR', quantity: '2' }
      ]
    ]);
  });
});
