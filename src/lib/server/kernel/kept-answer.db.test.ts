import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { makeWorld, type World } from '../testing/world.ts';
import { keptAnswer } from './kept-answer.ts';

let world: World;
let worked = 0;
beforeAll(async () => {
  world = await makeWorld();
});
beforeEach(() => {
  worked = 0;
});
afterAll(() => world.end());

const work = (): Promise<number> => Promise.resolve(++worked);
const ask = (name: string, does: () => Promise<number> = work, patienceMs?: number) =>
  keptAnswer(world.sql, name, does, patienceMs);

/** As if the last answer had taken no time, however slow the machine was. */
const wasQuick = (name: string) => world.sql`
  UPDATE kept_answer SET took_ms = 0 WHERE name = ${name}
`;

/** As if the last answer had taken five seconds, and were so old. */
const wasSlow = (name: string, minutesAgo: number) => world.sql`
  UPDATE kept_answer
  SET took_ms = 5000, made_at = now() - make_interval(mins => ${minutesAgo})
  WHERE name = ${name}
`;

/** Settles once a number was worked out beside, and is kept. */
async function settled(name: string, answer: number): Promise<void> {
  for (;;) {
    const [row] = await world.sql`SELECT begun_at, body FROM kept_answer WHERE name = ${name}`;
    if (row!.begun_at === null && row!.body === answer) return;
  }
}

describe('an answer about everything', () => {
  it('is worked out anew each time where that is quick', async () => {
    expect(await ask('quick')).toMatchObject({ answer: 1, underWay: false });
    await wasQuick('quick');
    expect(await ask('quick')).toMatchObject({ answer: 2, underWay: false });
  });

  it('is kept from the moment it is quick no more', async () => {
    await ask('growing');
    await wasQuick('growing');
    const clock = vi.spyOn(performance, 'now').mockReturnValueOnce(0).mockReturnValueOnce(5_000);
    expect(await ask('growing')).toMatchObject({ answer: 2, underWay: false });
    clock.mockRestore();
    expect(await ask('growing')).toMatchObject({ answer: 2, underWay: false });
    expect(worked).toBe(2);
  });

  it('is the last one where it is slow, as long as nothing was booked since', async () => {
    await ask('slow');
    await wasSlow('slow', 5);
    const kept = await ask('slow');
    expect(kept).toMatchObject({ answer: 1, underWay: false });
    expect(Date.now() - Date.parse(kept.at!)).toBeGreaterThan(4 * 60_000);
    expect(worked).toBe(1);
  });

  it('is worked out beside once something was booked, and by one of all who ask', async () => {
    await ask('booked');
    await wasSlow('booked', 5);
    await world.receive('LOT', [{ lot: 'NEW' }], '1');
    let finish = (): void => {};
    const asked = new Promise<void>((done) => {
      finish = done;
    });
    const long = async (): Promise<number> => {
      worked++;
      await asked;
      return 7;
    };
    const answers = await Promise.all(Array.from({ length: 8 }, () => ask('booked', long)));
    for (const one of answers) expect(one).toMatchObject({ answer: 1, underWay: true });
    finish();
    await settled('booked', 7);
    expect(worked).toBe(2);
    await wasQuick('booked');
    expect(await ask('booked', () => Promise.resolve(8))).toMatchObject({ answer: 8 });
  });

  it('is worked out anew after ten minutes, whatever was booked', async () => {
    await ask('old');
    await wasSlow('old', 11);
    expect(await ask('old')).toMatchObject({ answer: 1, underWay: true });
    await settled('old', 2);
    expect(worked).toBe(2);
  });

  it('is not there the first time where it takes longer than somebody waits', async () => {
    let done = (_: number): void => {};
    const long = new Promise<number>((finish) => {
      done = finish;
    });
    expect(await ask('first', () => long, 0)).toEqual({ answer: null, at: null, underWay: true });
    expect(await ask('first')).toEqual({ answer: null, at: null, underWay: true });
    expect(worked).toBe(0);
    done(7);
    await settled('first', 7);
    await wasSlow('first', 0);
    expect(await ask('first')).toMatchObject({ answer: 7, underWay: false });
  });

  it('that fails is said to who waits, and is worked out by the next', async () => {
    const fail = (): Promise<number> => Promise.reject(new Error('out of paper'));
    await expect(ask('failing', fail)).rejects.toThrow('out of paper');
    expect(await ask('failing')).toMatchObject({ answer: 1 });
  });
});
