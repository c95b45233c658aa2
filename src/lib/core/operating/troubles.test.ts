import { describe, expect, it } from 'vitest';
import { troublesOf, type Standing } from './troubles.ts';

const GIB = 2 ** 30;
const WELL: Standing = {
  disk: { free: 50 * GIB, whole: 100 * GIB },
  clockAheadMs: 12,
  bookedAheadMs: -400,
  sealWaitsMs: 8_000,
  index: { state: 'ready', reason: null },
  mailsGivenUp: 0
};
const codes = (change: Partial<Standing>) =>
  troublesOf({ ...WELL, ...change }).map(({ code }) => code);

describe('troubles of the machine', () => {
  it('are none where all is well, and where a part is not there at all', () => {
    expect(codes({})).toEqual([]);
    expect(codes({ disk: null, index: null, sealWaitsMs: null })).toEqual([]);
    expect(codes({ index: { state: 'starting', reason: null } })).toEqual([]);
    // Switched off by whoever runs it.
    expect(codes({ index: { state: 'off', reason: null } })).toEqual([]);
  });

  it.each<[string, Partial<Standing>, string]>([
    ['little left by amount', { disk: { free: 1.9 * GIB, whole: 20 * GIB } }, 'disk'],
    ['little left by share', { disk: { free: 40 * GIB, whole: 1000 * GIB } }, 'disk'],
    ['a clock that runs ahead', { clockAheadMs: 5_001 }, 'clock'],
    ['a clock that is behind', { clockAheadMs: -7_200_000 }, 'clock'],
    ['a clock that jumped back an hour', { bookedAheadMs: 3_600_000 }, 'clock back'],
    ['nothing sealed for long', { sealWaitsMs: 11 * 60_000 }, 'seal'],
    ['an index that gave up', { index: { state: 'off', reason: 'too large' } }, 'index'],
    ['mail that nobody takes', { mailsGivenUp: 2 }, 'mail']
  ])('%s', (_, change, code) => {
    expect(codes(change)).toEqual([code]);
    const [trouble] = troublesOf({ ...WELL, ...change });
    expect(trouble!.says.length).toBeGreaterThan(20);
    expect(trouble!.mend.length).toBeGreaterThan(20);
  });

  it('come the worst first', () => {
    const all = { disk: { free: 0, whole: GIB }, mailsGivenUp: 1, sealWaitsMs: 3_600_000 };
    expect(codes(all)).toEqual(['disk', 'seal', 'mail']);
  });
});
