import { describe, expect, it } from 'vitest';
import { ScannerRun } from './scanner-run.ts';

/** Whether Tab ends a scan after keys with so many milliseconds before each of them. */
function endsScan(keys: readonly [key: string, after: number][], tabAfter: number): boolean {
  const run = new ScannerRun();
  let at = 1000;
  for (const [key, after] of keys) run.see(key, (at += after));
  return run.endsAt(at + tabAfter);
}
const typed = (text: string, apart: number): [string, number][] =>
  [...text].map((key) => [key, apart]);

describe('keys typed into a field', () => {
  it('are a scan where they and what ends them come close to each other', () => {
    expect(endsScan(typed('BOB-2511', 8), 8)).toBe(true);
  });

  it('are no scan by hand, nor where Tab comes later', () => {
    expect(endsScan(typed('BOB-2511', 90), 8)).toBe(false);
    expect(endsScan(typed('BOB-2511', 8), 200)).toBe(false);
  });

  it('are no scan where they are a few, or the last few alone were quick', () => {
    expect(endsScan(typed('ab', 8), 8)).toBe(false);
    expect(endsScan([...typed('BOB-25', 90), ...typed('1', 8)], 8)).toBe(false);
    expect(endsScan([...typed('BOB-', 90), ...typed('2511', 8)], 8)).toBe(true);
  });

  it('begin anew after a key that is no character, but not after a shift', () => {
    expect(endsScan([...typed('BO', 8), ['Backspace', 8], ...typed('BO', 8)], 8)).toBe(false);
    expect(
      endsScan(
        [
          ['Shift', 8],
          ['B', 8],
          ['Shift', 8],
          ['O', 8],
          ['B', 8]
        ],
        8
      )
    ).toBe(true);
  });
});
