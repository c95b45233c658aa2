import { describe, expect, test } from 'vitest';
import { sayPartner, sayWish, type WishSaid } from './say-partner.ts';

const NOTHING: WishSaid = {
  ...{ product: null, leastDays: null, leastShare: null },
  ...{ oneLot: false, oneDate: false, tested: false }
};

describe('a partner in sentences', () => {
  test('is told by what they are to us, and by what they lack', () => {
    const both = { supplier: true, customer: true, gln: '9521321000001', warrantyMonths: 12 };
    expect(sayPartner(both)).toEqual([
      'Is our supplier and our customer.',
      'Their GLN is 9521321000001.',
      'By their contract they have 12 months of warranty.'
    ]);
    const none = { supplier: false, customer: false, gln: null, warrantyMonths: 12 };
    expect(sayPartner(none)).toEqual([
      'Is neither supplier nor customer: no order can name them.',
      'No GLN is known of them: event documents cannot name them.'
    ]);
  });

  test('wishes what was said and nothing else', () => {
    expect(sayWish({ ...NOTHING, leastDays: 90, tested: true })).toBe(
      'Of every product: at least 90 days to run, tested goods only.'
    );
    const one = { ...NOTHING, product: 'GLU-2', leastShare: '66.7', oneLot: true, oneDate: true };
    expect(sayWish(one)).toBe(
      'Of GLU-2: at least 66.7 % of its life to run, one lot only, one expiry date in a carton.'
    );
  });
});
