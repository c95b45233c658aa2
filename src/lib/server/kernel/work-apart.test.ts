import { describe, expect, it, vi } from 'vitest';
import { Problem } from './problem.ts';
import { workApart } from './work-apart.ts';

/** A thread that doubles numbers; what it does beside that is told to it. */
const THREAD = `
  import { BroadcastChannel, parentPort } from 'node:worker_threads';
  function failWhenTold() {
    const channel = new BroadcastChannel('fail');
    channel.onmessage = () => { throw new Error('it failed unasked'); };
  }
  parentPort.on('message', (asked) => {
    if (asked === 'never') return;
    if (asked === 'fail') throw new Error('it failed');
    if (asked === 13) failWhenTold();
    parentPort.postMessage(asked * 2);
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

  it('goes on where the thread fails with nobody waiting', async () => {
    const double = doubling();
    expect(await double(13)).toBe(26);
    const told = new Promise((tell) => vi.spyOn(console, 'error').mockImplementationOnce(tell));
    const channel = new BroadcastChannel('fail');
    channel.postMessage('now');
    expect(await told).toBe('doubling failed: it failed unasked');
    channel.close();
    expect(await double(5)).toBe(10);
  });
});
