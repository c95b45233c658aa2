import { describe, expect, it } from 'vitest';
import { afterScans, giveInTurn } from './scans-under-way.ts';

describe('a key beside scans', () => {
  it('acts at once where no scan is on its way', () => {
    expect(afterScans(() => true)).toBe(true);
    expect(afterScans(() => false)).toBe(false);
  });

  it('does not overtake a scan that is looked up still, nor a second one', async () => {
    const told: string[] = [];
    const lookedUp: (() => void)[] = [];
    const scan = (name: string): Promise<void> =>
      giveInTurn(async () => {
        await new Promise<void>((done) => lookedUp.push(done));
        told.push(name);
      });
    const scans = [scan('first'), scan('second')];
    const book = (): boolean => told.push('booked') > 0;
    expect(afterScans(book)).toBe(true);
    expect(told).toEqual([]);
    while (told.length < 3) {
      lookedUp.shift()?.();
      await Promise.resolve();
    }
    await Promise.all(scans);
    expect(told).toEqual(['first', 'second', 'booked']);
  });
});
