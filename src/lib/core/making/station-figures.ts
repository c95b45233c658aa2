import { groupBy } from '../group-by.ts';
import type { StationState } from './step.ts';

/** One step of one unit; `at` in milliseconds. */
export interface FloorStep {
  unit: number;
  station: number;
  action: string;
  state: StationState;
  at: number;
}
export interface StationFigures {
  station: number;
  /** Units that were finished there. */ finished: number;
  /** Of those, finished without ever being held or sent to rework there. */ firstPass: number;
  /** From first running to finished, the middle of all units, in minutes; null where none. */
  minutes: number | null;
}

/**
 * First-pass yield and time of each station. A unit counts as passed at first go where it was
 * finished there and neither held nor sent to rework before.
 */
export function stationFigures(steps: readonly FloorStep[]): StationFigures[] {
  return [...groupBy(steps, (step) => step.station)].map(([station, here]) => {
    const times: number[] = [];
    let finished = 0,
      firstPass = 0;
    for (const ofUnit of groupBy(here, (step) => step.unit).values()) {
      const inOrder = [...ofUnit].sort((a, b) => a.at - b.at);
      const end = inOrder.findLast((step) => step.action === 'step' && step.state === 'finished');
      if (!end) continue;
      finished++;
      if (!inOrder.some((step) => step.action === 'hold' || step.action === 'rework')) firstPass++;
      const begin = inOrder.find((step) => step.state === 'running');
      if (begin && begin.at <= end.at) times.push((end.at - begin.at) / 60_000);
    }
    times.sort((a, b) => a - b);
    const middle = times.length / 2;
    return {
      station,
      finished,
      firstPass,
      minutes:
        times.length === 0
          ? null
          : times.length % 2 === 1
            ? times[Math.floor(middle)]!
            : (times[middle - 1]! + times[middle]!) / 2
    };
  });
}
