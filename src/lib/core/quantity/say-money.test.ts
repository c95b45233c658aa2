import { expect, it } from 'vitest';
import { sayCost, sayMoney } from './say-money.ts';

it('says amounts to the cent, with thousands set apart', () => {
  expect(['0', '1234567.891', '-1234.5', '0.005', '-0.001'].map(sayMoney)).toEqual([
    ...['0.00', '1,234,567.89', '−1,234.50', '0.00', '0.00']
  ]);
});

it('says what one costs as finely as it must', () => {
  expect(['12.5', '0.0125', '0.000123456', '0', '1', null].map(sayCost)).toEqual([
    ...['12.50', '0.0125', '0.0001235', '0.00', '1.00', 'not known']
  ]);
});
