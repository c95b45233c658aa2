import { groupBy } from '../group-by.ts';
import type { Making } from './as-built.ts';

/** What is asked of a unit: what it was built of, or what is in it at an instant. */
export type AskedParts = 'built' | 'is';

/** A part put into a unit (above zero) or taken out of it (below). */
export interface PartChange extends Pick<Making, 'event' | 'document' | 'at' | 'who' | 'kind'> {
  host: number;
  part: number;
  quantity: string;
  position: string | null;
}

/** All that is known of units and their parts up to the instant asked for. */
export interface UnitHistory {
  makings: readonly Making[];
  changes: readonly PartChange[];
  /** Teardowns by the unit that was taken apart: their events, the earliest first. */
  apart: ReadonlyMap<number, readonly number[]>;
  /** Whether a mark is one unit; and the event it was born in. */
  single: (mark: number) => boolean;
  birthOf: (mark: number) => number;
}

/**
 * What counts of a history: of a unit that was taken apart and built again its last life. As it is,
 * also what was put in and taken out since; of one that is apart nothing. Parts that came out of
 * another unit were not made by that.
 */
export function countingMakings(history: UnitHistory, asked: AskedParts): Making[] {
  const since = lifeStarts(history, asked);
  const alive = (mark: number, event: number) => event > (since.get(mark) ?? 0);
  const made = history.makings.flatMap((making): Making[] => {
    const outputs = making.outputs.filter(({ mark }) => {
      const cameOut = making.kind === 'teardown' && history.birthOf(mark) !== making.event;
      return !cameOut && alive(mark, making.event);
    });
    // What the making made besides still has its share of what went in.
    return outputs.length === 0 ? [] : [{ ...making, outputs: making.outputs, counts: outputs }];
  });
  if (asked === 'built') return made;
  const changed = history.changes.filter(({ host, event }) => alive(host, event)).map(asMaking);
  return [...made, ...changed];
}

/** By unit, the teardown after which what counts of it begins. */
function lifeStarts(
  { apart, makings, single }: UnitHistory,
  asked: AskedParts
): Map<number, number> {
  const madeIn = groupBy(
    makings.flatMap(({ outputs, event }) => outputs.map(({ mark }) => ({ mark, event }))),
    ({ mark }) => mark
  );
  return new Map(
    [...apart].flatMap(([mark, events]) => {
      if (!single(mark)) return [];
      const builtAfter = (event: number) =>
        (madeIn.get(mark) ?? []).some((made) => made.event > event);
      // The record of its build is that of its last one, also where that is apart now.
      const ended = asked === 'is' ? events : events.filter(builtAfter);
      return ended.length === 0 ? [] : [[mark, Math.max(...ended)] as const];
    })
  );
}

const asMaking = ({ host, part, quantity, position, ...event }: PartChange): Making => ({
  ...event,
  ...{ id: 0, shared: false, bill: null, changesParts: true },
  inputs: [{ mark: part, quantity, position }],
  outputs: [{ mark: host, quantity: '1' }]
});
