import { describe, expect, it } from 'vitest';
import { inTurn } from './in-turn.ts';

describe('works in turn', () => {
  it('are done in the order they were asked for, though the first takes longest', async () => {
    const next = inTurn();
    const done: string[] = [];
    let go = () => {};
    const slow = next(async () => {
      await new Promise<void>((free) => (go = free));
      done.push('slow');
    });
    const quick = next(async () => {
      done.push('quick');
    });
    await Promise.resolve();
    go();
    await Promise.all([slow, quick]);
    expect(done).toEqual(['slow', 'quick']);
  });
  it('go on after one that fails, which is told to who asked for it', async () => {
    const next = inTurn();
    const failing = next(() => Promise.reject(new Error('lost')));
    const after = next(async () => 'done');
    await expect(failing).rejects.toThrow('lost');
    expect(await after).toBe('done');
  });
});
