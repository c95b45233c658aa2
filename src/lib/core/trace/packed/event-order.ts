import { Column } from './column.ts';
import type { OpenLedger } from './open-ledger.ts';
import type { PackedCut, Reached } from './reached.ts';

/**
 * The events that touched what a trace reached, each with its movements (place in the walk, code of
 * the quantity) and the nodes gone through in it. `start` says where each event's begin.
 */
export interface EventsOfTrace {
  ids: Uint32Array;
  moved: { start: Uint32Array; place: Uint32Array; code: Uint32Array };
  nodes: { start: Uint32Array; id: Uint32Array };
}

/** Gathers them; in no order of time, for that is the carrier's to choose. */
export function eventsOfTrace(
  ledger: OpenLedger,
  reached: Reached,
  { until }: PackedCut
): EventsOfTrace {
  const numbers = new Map<number, number>(),
    ids: number[] = [];
  let lastEvent = -1,
    lastNumber = -1;
  const numberOf = (event: number): number => {
    if (event === lastEvent) return lastNumber;
    let number = numbers.get(event);
    if (number === undefined) {
      numbers.set(event, (number = ids.length));
      ids.push(event);
    }
    lastEvent = event;
    lastNumber = number;
    return number;
  };
  const entries = new Column(),
    movedBy = new Column(),
    movedPlace = new Column(),
    movedCode = new Column();
  for (let place = 0; place < reached.marks.length; place++) {
    ledger.entriesOf(reached.marks.data[place]!, entries);
    for (let n = 0; n < entries.length; n++) {
      const entry = entries.data[n]!,
        event = ledger.entryEvent(entry);
      if (ledger.entryPlace(entry) === 0) continue;
      if (until !== undefined && ledger.eventAt(event) > until) continue;
      movedBy.push(numberOf(event));
      movedPlace.push(place);
      movedCode.push(ledger.entryQuantity(entry));
    }
  }
  const nodeBy = new Column(reached.nodes.length);
  for (let n = 0; n < reached.nodes.length; n++)
    nodeBy.push(numberOf(ledger.nodeEvent(reached.nodes.data[n]!)));
  const moved = grouped(movedBy, ids.length),
    nodes = grouped(nodeBy, ids.length);
  return {
    ids: Uint32Array.from(ids),
    moved: {
      start: moved.start,
      place: pick(movedPlace, moved.order),
      code: pick(movedCode, moved.order)
    },
    nodes: { start: nodes.start, id: pick(reached.nodes, nodes.order) }
  };
}

/** A counting sort: the places of `by` in the order of its values. */
function grouped(by: Column, groups: number): { start: Uint32Array; order: Uint32Array } {
  const start = new Uint32Array(groups + 1),
    order = new Uint32Array(by.length);
  for (let n = 0; n < by.length; n++) start[by.data[n]! + 1]!++;
  for (let group = 0; group < groups; group++) start[group + 1]! += start[group]!;
  const next = start.slice();
  for (let n = 0; n < by.length; n++) order[next[by.data[n]!]!++] = n;
  return { start, order };
}

function pick({ data }: Column, order: Uint32Array): Uint32Array {
  const picked = new Uint32Array(order.length);
  for (let n = 0; n < order.length; n++) picked[n] = data[order[n]!]!;
  return picked;
}
