/** Where a unit can be at a station. */
export const STATION_STATES = ['waiting', 'running', 'finished', 'held', 'rework'] as const;
export type StationState = (typeof STATION_STATES)[number];
/** What a read of a tag does: moves the unit on, sets it aside or back, or only looks. */
export const READ_MODES = ['step', 'hold', 'release', 'rework', 'back', 'look'] as const;
export type ReadMode = (typeof READ_MODES)[number];

/**
 * The same tag is not read again within this time. Practice of the trade (shared design,
 * standards.md).
 */
export const AGAIN_AFTER_SECONDS = 10;

export interface StationOnRoute {
  id: number;
  code: string;
  name: string;
}
/**
 * Where a unit stands: at which station, in what state, and what it was before it was set aside.
 */
export interface UnitPlace {
  station: number;
  state: StationState;
  before: StationState | null;
}

export type StepDecision =
  { ok: true; place: UnitPlace; says: string } | { ok: false; says: string };

/**
 * Decides one read of a unit's tag. A unit goes through the route's stations in order, at each from
 * waiting to running to finished; each read moves it on one step. What is held or in rework does
 * not move until it is released or sent back.
 * @param route its stations in order
 * @param at the station whose reader read the tag
 * @param where the unit stands; null before its first read
 */
export function decideStep(
  route: readonly StationOnRoute[],
  at: number,
  where: UnitPlace | null,
  mode: ReadMode,
  unit: string
): StepDecision {
  const here = route.findIndex((station) => station.id === at);
  const there = where === null ? -1 : route.findIndex((station) => station.id === where.station);
  const nameOf = (index: number) =>
    route[index]?.name ?? 'a station that is no longer on the route';
  if (here < 0)
    return {
      ok: false,
      says: `${unit} does not come through this station: its route is ${route.map((station) => station.name).join(', ') || 'empty'}.`
    };
  const stay = (state: StationState, before: StationState | null, says: string): StepDecision => ({
    ok: true,
    place: { station: where!.station, state, before },
    says
  });
  if (mode === 'look')
    return where === null
      ? { ok: false, says: `${unit} has not been at any station yet.` }
      : stay(where.state, where.before, `${unit} is ${sayState(where.state)} at ${nameOf(there)}.`);
  if (mode === 'step') return step();
  if (where === null)
    return {
      ok: false,
      says: `${unit} has not been at any station yet, so there is nothing to ${mode === 'back' ? 'send back' : mode}.`
    };
  switch (mode) {
    case 'hold':
      return where.state === 'held'
        ? { ok: false, says: `${unit} is held at ${nameOf(there)} already.` }
        : where.state === 'rework'
          ? { ok: false, says: `${unit} is in rework; send it back first.` }
          : stay('held', where.state, `${unit} is held at ${nameOf(there)}.`);
    case 'release':
      return where.state === 'held'
        ? stay(
            where.before ?? 'waiting',
            null,
            `${unit} is released: ${sayState(where.before ?? 'waiting')} at ${nameOf(there)}.`
          )
        : {
            ok: false,
            says: `${unit} is not held: it is ${sayState(where.state)} at ${nameOf(there)}.`
          };
    case 'rework':
      return where.state === 'rework'
        ? { ok: false, says: `${unit} is in rework already.` }
        : stay(
            'rework',
            where.state === 'held' ? (where.before ?? 'waiting') : where.state,
            `${unit} goes to rework from ${nameOf(there)}.`
          );
    // What comes back from rework is done again at the station that sent it.
    case 'back':
      return where.state === 'rework'
        ? stay('waiting', null, `${unit} is back from rework, waiting at ${nameOf(there)}.`)
        : {
            ok: false,
            says: `${unit} is not in rework: it is ${sayState(where.state)} at ${nameOf(there)}.`
          };
  }

  function step(): StepDecision {
    const arrive = (): StepDecision => ({
      ok: true,
      place: { station: at, state: 'waiting', before: null },
      says: `${unit} waits at ${nameOf(here)}.`
    });
    if (where === null)
      return here === 0
        ? arrive()
        : { ok: false, says: `${unit} begins at ${nameOf(0)}, not at ${nameOf(here)}.` };
    if (where.state === 'held')
      return {
        ok: false,
        says: `${unit} is held at ${nameOf(there)}. It does not go on before it is released.`
      };
    if (where.state === 'rework')
      return { ok: false, says: `${unit} is in rework from ${nameOf(there)}. Send it back first.` };
    if (there === here) {
      if (where.state === 'waiting')
        return stay('running', null, `${unit} is running at ${nameOf(here)}.`);
      if (where.state === 'running')
        return stay(
          'finished',
          null,
          here === route.length - 1
            ? `${unit} is finished at ${nameOf(here)}, the last station.`
            : `${unit} is finished at ${nameOf(here)}. Next: ${nameOf(here + 1)}.`
        );
      return {
        ok: false,
        says:
          here === route.length - 1
            ? `${unit} has been through all its stations.`
            : `${unit} is finished here. It goes on at ${nameOf(here + 1)}.`
      };
    }
    if (here < there)
      return {
        ok: false,
        says: `${unit} has passed ${nameOf(here)} already: it is ${sayState(where.state)} at ${nameOf(there)}.`
      };
    if (where.state !== 'finished')
      return {
        ok: false,
        says: `${unit} is still ${sayState(where.state)} at ${nameOf(there)}. Finish it there first.`
      };
    return here === there + 1
      ? arrive()
      : {
          ok: false,
          says: `${unit} comes from ${nameOf(there)} and goes to ${nameOf(there + 1)} next, not to ${nameOf(here)}.`
        };
  }
}

const sayState = (state: StationState): string => (state === 'rework' ? 'in rework' : state);
