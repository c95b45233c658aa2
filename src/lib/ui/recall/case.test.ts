import { describe, expect, it } from 'vitest';
import { answersTyped, goodsOf, languagesOf, restReturned } from './case.ts';

const row = (mark: number, quantity: string, event = 1) => ({
  ...{ mark, quantity, event, number: `L${mark}`, product: 'KG', unit: 'kg', document: 'SO-1' }
});
const customer = {
  ...{ partner: 'CUS', name: 'Customer', address: '', contact: '', language: 'en' as const },
  rows: [row(1, '0.1'), row(1, '0.2', 2), row(2, '3')]
};
const told = {
  ...{ id: 1, partner: 'CUS', mark: 1, outcome: 'destroyed' as const, quantity: '0.05' },
  ...{ note: 'burnt', toldAt: '2026-11-01T10:00:00Z', who: 'Wilf' }
};

describe('what a customer answers', () => {
  it('stands lot by lot, exactly, whatever papers it left on', () => {
    expect(goodsOf(customer, [told])).toMatchObject([
      { mark: 1, had: '0.3', open: '0.25', told: [{ note: 'burnt' }] },
      { mark: 2, had: '3', open: '3', told: [] }
    ]);
  });

  it('is filled with the rest, and sent as it was typed', () => {
    const goods = goodsOf(customer, [told]);
    const typed = { ...restReturned(goods), '2 destroyed': ' ' };
    expect(answersTyped('CUS', goods, typed, 'by telephone')).toEqual([
      { partner: 'CUS', mark: 1, outcome: 'returned', quantity: '0.25', note: 'by telephone' },
      { partner: 'CUS', mark: 2, outcome: 'returned', quantity: '3', note: 'by telephone' }
    ]);
  });
});

describe('the languages of a case', () => {
  it('are those its customers read besides English, with how many read each', () => {
    const read = (language: 'en' | 'de' | 'es') => ({ language });
    const customers = [read('de'), read('en'), read('es'), read('de')];
    expect(languagesOf(customers)).toEqual([
      { language: 'de', readers: 2 },
      { language: 'es', readers: 1 }
    ]);
    expect(languagesOf([read('en')])).toEqual([]);
  });
});
