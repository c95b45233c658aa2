import { describe, expect, it } from 'vitest';
import { stationFigures, type FloorStep } from './station-figures.ts';
import { decideStep, type ReadMode, type UnitPlace } from './step.ts';

const route = [
  { id: 1, code: 'A', name: 'weld' },
  { id: 2, code: 'B', name: 'test' },
  { id: 3, code: 'C', name: 'pack' }
];
/** Reads one after the other, at a station each; the words of the last. */
function walk(
  reads: [number, ReadMode?][],
  from: UnitPlace | null = null
): { place: UnitPlace | null; says: string; ok: boolean } {
  let place = from,
    says = '',
    ok = true;
  for (const [at, mode = 'step'] of reads) {
    const decision = decideStep(route, at, place, mode, 'U');
    ({ says, ok } = decision);
    if (decision.ok) place = decision.place;
  }
  return { place, says, ok };
}

describe('a unit on its route', () => {
  it('moves on one step with each read: waiting, running, finished, then the next station', () => {
    expect(walk([[1]]).place).toEqual({ station: 1, state: 'waiting', before: null });
    expect(walk([[1], [1], [1]]).says).toBe('U is finished at weld. Next: test.');
    expect(walk([[1], [1], [1], [2]]).place).toEqual({
      station: 2,
      state: 'waiting',
      before: null
    });
    expect(walk([[1], [1], [1], [2], [2], [2], [3], [3], [3]]).says).toBe(
      'U is finished at pack, the last station.'
    );
    expect(walk([[1], [1], [1], [2], [2], [2], [3], [3], [3], [3]])).toMatchObject({
      ok: false,
      says: 'U has been through all its stations.'
    });
  });
  it('is held and released where it was, or goes to rework and is done again', () => {
    expect(walk([[1], [1], [1, 'hold']]).place).toEqual({
      station: 1,
      state: 'held',
      before: 'running'
    });
    expect(walk([[1], [1], [1, 'hold'], [1]])).toMatchObject({
      ok: false,
      says: expect.stringContaining('does not go on before it is released')
    });
    expect(walk([[1], [1], [1, 'hold'], [2, 'release']]).place).toEqual({
      station: 1,
      state: 'running',
      before: null
    });
    expect(walk([[1], [1], [1, 'hold'], [1, 'rework']]).place).toEqual({
      station: 1,
      state: 'rework',
      before: 'running'
    });
    expect(walk([[1], [1], [1, 'rework'], [1, 'back']]).place).toEqual({
      station: 1,
      state: 'waiting',
      before: null
    });
  });
  it('is only looked at without being moved', () => {
    expect(walk([[1], [1], [2, 'look']])).toMatchObject({
      ok: true,
      place: { station: 1, state: 'running' },
      says: 'U is running at weld.'
    });
  });
  const wrong: [string, [number, ReadMode?][], string][] = [
    ['begins in the middle', [[2]], 'begins at weld, not at test'],
    ['leaves a station unfinished', [[1], [2]], 'still waiting at weld'],
    ['skips a station', [[1], [1], [1], [3]], 'goes to test next, not to pack'],
    ['comes back', [[1], [1], [1], [2], [1]], 'has passed weld already'],
    [
      'is read again where it is finished',
      [[1], [1], [1], [1]],
      'finished here. It goes on at test'
    ],
    ['is read off its route', [[9]], 'does not come through this station'],
    ['is held twice', [[1], [1, 'hold'], [1, 'hold']], 'held at weld already'],
    ['is released without being held', [[1], [1, 'release']], 'not held: it is waiting'],
    ['goes to rework twice', [[1], [1, 'rework'], [1, 'rework']], 'in rework already'],
    ['comes back from nowhere', [[1], [1, 'back']], 'not in rework'],
    ['moves on in rework', [[1], [1, 'rework'], [1]], 'Send it back first'],
    ['is held in rework', [[1], [1, 'rework'], [1, 'hold']], 'send it back first'],
    ['is held before its first station', [[1, 'hold']], 'nothing to hold'],
    ['is looked at before its first station', [[1, 'look']], 'has not been at any station yet']
  ];
  it.each(wrong)('is told where it %s', (_, reads, says) =>
    expect(walk(reads)).toMatchObject({ ok: false, says: expect.stringContaining(says) })
  );
});

describe('what the stations did', () => {
  const minute = 60_000;
  const step = (
    unit: number,
    action: string,
    state: FloorStep['state'],
    at: number
  ): FloorStep => ({ unit, station: 1, action, state, at: at * minute });
  it('counts first-pass yield over finished units, and the middle time', () => {
    const steps = [
      step(1, 'step', 'running', 0),
      step(1, 'step', 'finished', 10),
      step(2, 'step', 'running', 0),
      step(2, 'rework', 'rework', 4),
      step(2, 'back', 'waiting', 8),
      step(2, 'step', 'running', 9),
      step(2, 'step', 'finished', 30),
      step(3, 'step', 'running', 0),
      step(3, 'hold', 'held', 5),
      step(3, 'release', 'running', 7),
      step(3, 'step', 'finished', 20),
      step(4, 'step', 'running', 0),
      step(4, 'step', 'finished', 12),
      step(5, 'step', 'running', 0)
    ];
    expect(stationFigures(steps)).toEqual([{ station: 1, finished: 4, firstPass: 2, minutes: 16 }]);
    expect(stationFigures([step(5, 'step', 'running', 0)])).toEqual([
      { station: 1, finished: 0, firstPass: 0, minutes: null }
    ]);
  });
});
