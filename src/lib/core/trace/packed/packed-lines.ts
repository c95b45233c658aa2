import { Column } from './column.ts';
import { sayMicro } from './amounts.ts';
import type { OpenLedger } from './open-ledger.ts';
import type { PackedCut, Reached } from './reached.ts';

/**
 * The events that touched what a trace reached, in the order they happened, with their lines:
 * `lineStart` says where each event's begin.
 * Place 0 is a change of the mark that moved nothing. Amounts are places in `amounts`.
 */
export interface PackedLines {
  events: Uint32Array;
  lineStart: Uint32Array;
  mark: Uint32Array;
  place: Uint32Array;
  amount: Uint32Array;
  amounts: string[];
}

export function packedLines(
  ledger: OpenLedger,
  reached: Reached,
  { until }: PackedCut
): PackedLines {
  const entries = new Column(),
    lineMark = new Column(),
    lineEntry = new Column(),
    lineEvent = new Column();
  const numbers = new Map<number, number>(),
    ids: number[] = [],
    counts = new Column(256);
  let lastEvent = -1,
    lastNumber = -1;
  for (let place = 0; place < reached.marks.length; place++) {
    const mark = reached.marks.data[place]!;
    ledger.entriesOf(mark, entries);
    for (let n = 0; n < entries.length; n++) {
      const entry = entries.data[n]!,
        event = ledger.entryEvent(entry);
      if (until !== undefined && ledger.eventAt(event) > until) continue;
      if (!reached.counts(mark, event)) continue;
      let number = lastNumber;
      if (event !== lastEvent) {
        const known = numbers.get(event);
        if (known === undefined) {
          number = ids.length;
          numbers.set(event, number);
          ids.push(event);
          counts.push(0);
        } else number = known;
        lastEvent = event;
        lastNumber = number;
      }
      counts.data[number]!++;
      lineMark.push(mark);
      lineEntry.push(entry);
      lineEvent.push(number);
    }
  }
  const order = ids
    .map((_, number) => number)
    .sort((a, b) => ledger.eventAt(ids[a]!) - ledger.eventAt(ids[b]!) || ids[a]! - ids[b]!);
  const lineStart = new Uint32Array(order.length + 1),
    next = new Uint32Array(order.length);
  order.forEach((number, n) => {
    lineStart[n + 1] = lineStart[n]! + counts.data[number]!;
    next[number] = lineStart[n]!;
  });
  const texts: string[] = [],
    codes = new Map<number, number>();
  const amountOf = (code: number): number => {
    let at = codes.get(code);
    if (at === undefined) {
      codes.set(code, (at = texts.length));
      texts.push(sayMicro(ledger.micro(code)));
    }
    return at;
  };
  const mark = new Uint32Array(lineMark.length),
    place = new Uint32Array(lineMark.length),
    amount = new Uint32Array(lineMark.length);
  // Lines that move come before those that only change, as each mark's entries do.
  for (const moves of [true, false]) {
    for (let n = 0; n < lineMark.length; n++) {
      const entry = lineEntry.data[n]!,
        where = ledger.entryPlace(entry);
      if (where > 0 !== moves) continue;
      const at = next[lineEvent.data[n]!]!++;
      mark[at] = lineMark.data[n]!;
      place[at] = where;
      amount[at] = amountOf(ledger.entryQuantity(entry));
    }
  }
  return {
    events: Uint32Array.from(order, (number) => ids[number]!),
    lineStart,
    mark,
    place,
    amount,
    amounts: texts
  };
}
