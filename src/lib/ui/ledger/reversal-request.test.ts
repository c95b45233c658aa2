import { describe, expect, it } from 'vitest';
import { byEvent, reversalOf, whatComesOf } from './reversal-request.ts';

const open = [
  { mark: 1, product: 'SER', kind: 'serial', number: 'S-1' },
  { mark: 2, product: 'LOT', kind: 'lot', number: 'L-1' },
  { mark: 3, product: 'BULK', kind: 'bulk', number: null }
] as const;

describe('what is sent to take an event back', () => {
  it('names what is picked, and nothing where it is all of it', () => {
    const event = { id: 5, document: 'WO', open };
    expect(reversalOf(event, null, 'why')).toEqual({ document: 'WO', event: 5, reason: 'why' });
    expect(reversalOf(event, new Set([1, 2, 3]), 'why')).toMatchObject({
      units: [
        { product: 'SER', serial: 'S-1' },
        { product: 'LOT', lot: 'L-1' },
        { product: 'BULK' }
      ]
    });
  });
  it('says what comes of it', () => {
    expect(whatComesOf('scrap')).toContain('lies again where it was');
    expect(whatComesOf('build')).toContain('What was made leaves stock');
  });
  it('tells each event in the way once', () => {
    const at = (event?: number) => (event === undefined ? {} : { event });
    expect(byEvent([at(7), at(), at(7), at(8), at()])).toEqual([
      { first: at(7), more: 1 },
      { first: at(), more: 0 },
      { first: at(8), more: 0 },
      { first: at(), more: 0 }
    ]);
  });
});
