import { Column } from './column.ts';
import type { OpenLedger } from './open-ledger.ts';
import type { PartFlow } from './part-flow.ts';
import type { PackedCut } from './reached.ts';

/**
 * The clocks a root starts at: the outermost of the events asked from that moved it; otherwise the
 * beginning of time, upstream the time it is looked at. Upstream they are negated, as in `Labels`.
 */
export function startOf(
  ledger: OpenLedger,
  flow: PartFlow,
  root: number,
  { from, clocks }: PackedCut
): { happened: number; booked: number } {
  const beginning = { happened: -Infinity, booked: -Infinity };
  if (clocks === 'ignore') return beginning;
  const plain = flow.down ? beginning : flow.lookedAt(root);
  if (!from) return plain;
  const asked = new Set(from);
  const entries = new Column(16);
  let happened = Infinity,
    booked = Infinity;
  ledger.entriesOf(root, entries);
  for (let n = 0; n < entries.length; n++) {
    const entry = entries.data[n]!,
      event = ledger.entryEvent(entry);
    if (!asked.has(event) || ledger.entryPlace(entry) === 0) continue;
    happened = Math.min(happened, flow.happenedAt(event));
    booked = Math.min(booked, flow.bookedAt(event));
  }
  return booked === Infinity ? plain : { happened, booked };
}
