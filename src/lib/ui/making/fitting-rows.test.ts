import { describe, expect, it } from 'vitest';
import { fittingOf, pathOfNew, pathsOf, saidAt, sayWork, type PartRow } from './fitting-rows.ts';

const row = (more: Partial<PartRow>): PartRow => ({
  ...{ product: 'HEAD', kind: 'serial', number: 'H-1', position: 'left', quantity: '1' },
  ...{ unit: 'each', fate: 'stays', to: 'DOCK', instead: '' },
  ...more
});
const fresh = { product: 'CLIP', kind: 'lot', number: 'K', quantity: '2', position: '' } as const;

describe('the rows of a fitting', () => {
  it('send what comes out and what goes in at its place', () => {
    const rows = [row({}), row({ number: 'H-2', fate: 'held', instead: ' H-9 ' })];
    expect(fittingOf(rows, [fresh])).toEqual({
      remove: [
        {
          ...{ product: 'HEAD', serial: 'H-2', quantity: '1', position: 'left' },
          ...{ to: 'DOCK', state: 'held' }
        }
      ],
      fit: [
        { product: 'HEAD', serial: 'H-9', quantity: '1', position: 'left' },
        { product: 'CLIP', lot: 'K', quantity: '2' }
      ]
    });
  });
  it('show each fault beside the row it is about', () => {
    const rows = [row({}), row({ fate: 'usable' }), row({ fate: 'held', instead: 'H-9' })];
    expect(pathsOf(rows, 2)).toEqual(['units[0].remove[1]', 'units[0].fit[0]']);
    expect(pathOfNew(rows, 0)).toBe('units[0].fit[1]');
    const faults = [
      { path: 'units[0].fit[1].product', message: 'No such product.' },
      { path: 'units[0].fit[10]', message: 'Another row.' }
    ];
    expect(saidAt(faults, [pathOfNew(rows, 0)])).toBe('No such product.');
  });
  it('say what the button does', () => {
    const out = row({ fate: 'usable' });
    const swapped = row({ fate: 'held', instead: 'H-9' });
    expect([
      sayWork([out], []),
      sayWork([swapped], []),
      sayWork([out, swapped], []),
      sayWork([row({})], [fresh])
    ]).toEqual(['Take 1 part out', 'Swap 1 part', 'Take 2 out, put 1 in', 'Put 1 part in']);
  });
});
