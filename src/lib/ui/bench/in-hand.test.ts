import { describe, expect, it } from 'vitest';
import { storage } from '../testing/storage.ts';
import type { Row } from './grid.ts';
import { changedRow, rowInHand, scannedBeside, tellScan } from './in-hand.ts';
import { isOneByOne, setOneByOne } from './one-by-one.ts';

const rows: Row[] = [
  { serial: 'A' },
  { serial: ' ' },
  { serial: 'B' },
  { serial: 'C' },
  { lot: 'L' }
];

describe('the row in hand', () => {
  it('is the last with a number, whatever blank rows come after it', () => {
    expect(rowInHand(rows, 'serial')).toBe(3);
    expect(rowInHand([{ lot: 'L' }], 'serial')).toBe(-1);
  });

  it('is the one a scan filled, where a blank one stood before others', () => {
    expect(changedRow(rows, rows.with(1, { serial: 'N' }))).toBe(1);
    expect(changedRow(rows, [...rows, { serial: 'N' }])).toBe(5);
    expect(changedRow(rows, [...rows])).toBe(-1);
  });

  it('has those beside it, the latest first and no more than fit', () => {
    expect(scannedBeside(rows, 'serial', 3, 5)).toEqual([
      { at: 2, number: 'B' },
      { at: 0, number: 'A' }
    ]);
    expect(scannedBeside(rows, 'serial', 0, 1)).toEqual([{ at: 3, number: 'C' }]);
    expect(scannedBeside([], 'serial', -1, 5)).toEqual([]);
  });
});

describe('what is told of a scan', () => {
  const taken = { tone: 'taken', text: 'C is in.' } as const;

  it('asks before the first, and tells a refused scan before all else', () => {
    expect(tellScan(null, undefined, 'Scan one.')).toEqual({ tone: 'ask', text: 'Scan one.' });
    const refused = { tone: 'refused', text: 'C is on this sheet already.' } as const;
    const note = { tone: 'note', text: 'late', full: 'It expires soon.' } as const;
    expect(tellScan(refused, note, '')).toEqual(refused);
  });

  it('is what the ledger says of it, once that is known', () => {
    const stop = { tone: 'stop', text: 'on hand', full: 'C is on hand already.' } as const;
    expect(tellScan(taken, stop, '')).toEqual({ tone: 'refused', text: 'C is on hand already.' });
    const good = { tone: 'good', text: 'new', full: '' } as const;
    expect(tellScan(taken, good, '')).toEqual(taken);
    const reason = { ...stop, tone: 'reason' } as const;
    expect(tellScan(taken, reason, '').tone).toBe('warned');
  });
});

describe('one by one', () => {
  it('is kept by the device', () => {
    const kept = storage();
    expect(isOneByOne(kept)).toBe(false);
    setOneByOne(kept, true);
    expect(isOneByOne(kept)).toBe(true);
    setOneByOne(kept, false);
    expect(isOneByOne(kept)).toBe(false);
  });
});
