import { describe, expect, it } from 'vitest';
import { decideTransferOrder } from './decide-transfer-order.ts';

const products = new Map([
  ['TERN', { id: 1, code: 'TERN', unit: 'each', decimals: 0 }],
  ['GUM', { id: 2, code: 'GUM', unit: 'kg', decimals: 3 }]
]);
const decide = (...lines: [product: string, quantity: string][]) => {
  const asked = lines.map(([product, quantity]) => ({ product, quantity }));
  const { lines: kept, faults } = decideTransferOrder(asked, products);
  return { kept, faults: faults.map((one) => `${one.code} ${one.path}`) };
};

describe('what a transfer ordered ahead asks for', () => {
  it('is kept by product, each in its own unit', () => {
    expect(decide(['tern', '6'], ['GUM', '0.250'])).toEqual({
      kept: [
        { productId: 1, quantity: '6' },
        { productId: 2, quantity: '0.25' }
      ],
      faults: []
    });
  });

  it('is refused with everything that is wrong', () => {
    const { faults } = decide(['TERN', '1.5'], ['GUM', '-1'], ['OAR', '2'], ['GUM', '1e400']);
    expect(faults).toEqual([
      'quantity.not-whole lines[0].quantity',
      'quantity.mismatch lines[1].quantity',
      'product.unknown lines[2].product',
      'mark.duplicate lines[3].product'
    ]);
  });
});
