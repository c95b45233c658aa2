import { Column } from './column.ts';
import { OriginSets } from './origin-sets.ts';
import { eventKindCode, IS_LIST, type PackedLedger } from './packed-ledger.ts';

const RECEIVE = eventKindCode('receive');

/**
 * The suppliers that anything in each mark came from, through all levels: what was received of
 * them, carried along every node that was not taken back. A mark is looked at again only where its
 * set grew, so loops end.
 */
export function originsOf(ledger: Omit<PackedLedger, 'origin' | 'origins'>): {
  origin: Uint32Array;
  origins: Column;
} {
  const { marks, moves, lists, entries, kinds, partners, down, shape, shapes, outputs, sides } =
    ledger;
  const sets = new OriginSets();
  const origin = new Uint32Array(marks.length);
  const taken = new Set(ledger.reversed);
  const waiting = new Column(),
    queued = new Uint8Array(marks.length);
  const grow = (mark: number, set: number): void => {
    const union = sets.union(origin[mark]!, set);
    if (union === origin[mark]) return;
    origin[mark] = union;
    if (queued[mark] === 0) {
      queued[mark] = 1;
      waiting.push(mark);
    }
  };
  const alone = new Map<number, number>();
  const supplierOf = (entry: number): number => {
    const event = entries[entry * 3]!;
    if (kinds[event] !== RECEIVE || partners[event] === 0) return 0;
    let set = alone.get(partners[event]!);
    if (set === undefined) alone.set(partners[event]!, (set = sets.of([partners[event]!])));
    return set;
  };
  for (let mark = 0; mark < marks.length; mark++) {
    const word = moves[mark]!;
    if (word === 0) continue;
    if (word < IS_LIST) {
      grow(mark, supplierOf(word - 1));
      continue;
    }
    for (let at = word & ~IS_LIST, last = false; !last; at++) {
      last = lists[at]! >= IS_LIST;
      grow(mark, supplierOf(lists[at]! & ~IS_LIST));
    }
  }
  const pour = (node: number, set: number): void => {
    // A part that comes out of a unit is what it was before.
    if (taken.has(node) || node >= ledger.firstRemoval) return;
    const count = shapes[shape[node]! + 1]!;
    if (count === 1) grow(outputs[node]!, set);
    else for (let n = 0; n < count; n++) grow(sides[outputs[node]! + n]!, set);
  };
  for (let next = 0; next < waiting.length; next++) {
    const mark = waiting.data[next]!,
      set = origin[mark]!,
      word = down[mark]!;
    queued[mark] = 0;
    if (word === 0) continue;
    if (word < IS_LIST) {
      pour(word - 1, set);
      continue;
    }
    for (let at = word & ~IS_LIST, last = false; !last; at++) {
      last = lists[at]! >= IS_LIST;
      pour(lists[at]! & ~IS_LIST, set);
    }
  }
  return { origin, origins: sets.pool };
}
