import { describe, expect, it } from 'vitest';
import { Problem } from './problem.ts';
import { workApart } from './work-apart.ts';

/** A thread that doubles numbers; what it does beside that is told to it. */
const THREAD = `
  import { parentPort } from 'node:worker_threads';
  parentPort.on('message', (asked) => {
    if (asked === 'never') return;
    if (asked === 'fail') throw new Error('it failed');
    parentPort.postMessage(asked * 2);
    if (asked === 13) setTimeout(() => { throw new Error('it failed afterwards'); });
  });
`;

const doubling = (mostMs = 60_000) =>
  workApart<number | string, number>({
    name: 'doubling',
    source: new URL(`data:text/javascript,${encodeURIComponent(THREAD)}`),
    mostMs,
    mostHeapMb: 64,
    mostWaiting: 2,
    tooHeavy: () => new Problem(422, 'Too heavy'),
    tooMany: { title: 'Too many', message: 'Wait.' }
  });

describe('work done apart', () => {
  it('is answered in turn by one thread', async () => {
    const double = doubling();
    expect(await Promise.all([double(1), double(2), double(3)])).toEqual([2, 4, 6]);
  });

  it('is refused where it takes too long', async () => {
    await expect(doubling(100)('never')).rejects.toMatchObject({ status: 422 });
  });

  it('is refused where it fails, and the next is done by another thread', async () => {
    const double = doubling();
    await expect(double('fail')).rejects.toThrow('it failed');
    expect(await double(4)).toBe(8);
  });

  it('goes on where the thread fails after its answer, with nobody waiting', async () => {
    const double = doubling();
    expect(await double(13)).toBe(26);
    let answer = 0;
    // Until the failed one is known to be gone, a question may still be put to it, and is refused.
    while (answer === 0) answer = await double(5).catch(() => 0);
    expect(answer).toBe(10);
  });
});
