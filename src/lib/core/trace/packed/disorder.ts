import { Column } from './column.ts';
import { eventKindCode } from './packed-ledger.ts';
import { nodePlace, type OpenLedger } from './open-ledger.ts';

const RECEIVE = eventKindCode('receive');

/**
 * The marks where the order of time matters: something was taken of them before all of it had come,
 * by both clocks, or parts came out of them. Through any other mark whatever comes in goes on into
 * all that is taken.
 */
export function marksOutOfOrder(ledger: OpenLedger): number[] {
  const found: number[] = [];
  const list = new Column(16),
    node = nodePlace();
  for (let mark = 1; mark < ledger.markBound; mark++)
    if (ledger.isSeparated(mark) || (ledger.cameInTwice(mark) && isDisordered(mark)))
      found.push(mark);
  return found;

  function isDisordered(mark: number): boolean {
    let happened = -Infinity,
      booked = -Infinity;
    const note = (event: number): void => {
      happened = Math.max(happened, ledger.eventAt(event));
      booked = Math.max(booked, event);
    };
    ledger.nodesUp(mark, list);
    for (let n = 0; n < list.length; n++) {
      ledger.load(list.data[n]!, node);
      note(node.event);
    }
    ledger.entriesOf(mark, list);
    for (let n = 0; n < list.length; n++) {
      const event = ledger.entryEvent(list.data[n]!);
      if (ledger.eventKind(event) === RECEIVE) note(event);
    }
    ledger.nodesDown(mark, list);
    for (let n = 0; n < list.length; n++) {
      ledger.load(list.data[n]!, node);
      if (ledger.eventAt(node.event) < happened && node.event < booked) return true;
    }
    return false;
  }
}
