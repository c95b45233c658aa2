import { describe, expect, it } from 'vitest';
import { tallyOf } from './tally-of.ts';

const sums = {
  left: ['10', '4.5', '0'],
  marked: ['10', '2', '0'],
  toGo: ['0', '2.5', '0'],
  booking: ['10', '2', '0']
};

describe('the foot of a sheet', () => {
  it('adds up what is of one unit', () => {
    expect(tallyOf(['each', 'each', 'each'], sums)).toEqual({
      ...{
        marked: '12',
        of: '14.5',
        what: 'marked',
        toGo: '2.5',
        open: '14.5',
        books: '12',
        waits: 'wait'
      }
    });
  });

  it('says a measure with its unit', () => {
    expect(tallyOf(['kg', 'kg'], sums)).toMatchObject({
      ...{ what: 'kg marked', open: '14.5\u00a0kg', books: '12\u00a0kg' }
    });
  });

  it('counts lines where the units differ: kilograms and pieces make no sum', () => {
    expect(tallyOf(['each', 'kg', 'each'], sums)).toEqual({
      ...{
        marked: '1',
        of: '2',
        what: 'lines marked',
        toGo: '1',
        open: '2 lines',
        books: '2 lines',
        waits: 'wait'
      }
    });
  });
});
