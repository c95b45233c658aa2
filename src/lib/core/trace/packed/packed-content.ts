import { Column } from './column.ts';
import { contentOfMicro } from './amounts.ts';
import { nodePlace, type OpenLedger } from './open-ledger.ts';
import type { Reached } from './packed-walk.ts';

/** Rounds allowed for what loops through rework; each carries the rest once more round. */
const MOST_ROUNDS = 5000;
/** What is less than this is nothing: 10⁻²⁴. */
const NOTHING = 10n ** 6n;

/**
 * How much of the roots is in each mark reached, by proportional mixing: the formula of
 * core/trace/content.ts worked out on whole numbers with thirty places after the point. The
 * last output of a node takes what rounding leaves, so content is conserved.
 * @param totals all that ever came in of a mark, in micro-units, by its place
 * @param unitOf the unit of a product, by id, to see whether outputs can share by quantity
 * @returns content by place, scaled as core/trace/packed/amounts.ts says
 */
export function packedContent(
  ledger: OpenLedger,
  reached: Reached,
  roots: number,
  totals: (place: number) => bigint,
  unitOf: (product: number) => number
): bigint[] {
  const { marks, nodes, placeOf } = reached;
  const content: bigint[] = new Array<bigint>(marks.length).fill(0n);
  for (let place = 0; place < roots; place++) content[place] = contentOfMicro(totals(place));
  // How many inputs of each node, and how many nodes into each mark, are still to come.
  const indexOf = new Map<number, number>();
  const waiting = new Uint32Array(nodes.length),
    open = new Uint32Array(marks.length),
    feeds = new Uint8Array(marks.length),
    node = nodePlace();
  for (let n = 0; n < nodes.length; n++) {
    const id = nodes.data[n]!;
    indexOf.set(id, n);
    ledger.load(id, node);
    for (let i = 0; i < node.ins; i++) {
      const place = placeOf[node.inputs[node.inAt + i]!]!;
      if (place > 0) {
        waiting[n]!++;
        feeds[place - 1] = 1;
      }
    }
    for (let o = 0; o < node.outs; o++) {
      const place = placeOf[node.outputs[node.outAt + o]!]!;
      if (place > 0) open[place - 1]!++;
    }
  }
  const lastCode = new Int32Array(marks.length).fill(-1),
    lastTaken: bigint[] = new Array<bigint>(marks.length).fill(0n);
  // A thousand units each take the same amount of the same lot: divide once. A settled mark's
  // content no longer changes.
  const taking = (place: number, code: number): bigint => {
    if (lastCode[place] === code) return lastTaken[place]!;
    const amount = content[place]!,
      whole = amount === 0n ? 0n : totals(place);
    const taken = whole === 0n ? 0n : (amount * ledger.micro(code)) / whole;
    lastCode[place] = code;
    lastTaken[place] = taken;
    return taken;
  };
  const shares = sharer(ledger, node, placeOf, unitOf);
  const pour = (carried: bigint, into: (place: number, share: bigint) => void): void => {
    const { outs, weights, sum, last } = shares();
    let left = carried;
    for (let o = 0; o < outs; o++) {
      const place = placeOf[node.outputs[node.outAt + o]!]!;
      if (place === 0) continue;
      const share = o === last ? left : (carried * weights[o]!) / sum;
      left -= share;
      if (place > roots) into(place - 1, share);
    }
  };
  const settled = new Column(marks.length),
    done = new Uint8Array(marks.length);
  const settle = (place: number): void => {
    if (done[place] === 0) {
      done[place] = 1;
      settled.push(place);
    }
  };
  for (let place = 0; place < roots; place++) settle(place);
  for (let place = roots; place < marks.length; place++)
    if (feeds[place] === 1 && open[place] === 0) settle(place);
  const list = new Column();
  const poured = new Uint8Array(nodes.length);
  for (let next = 0; next < settled.length; next++) {
    ledger.nodesDown(marks.data[settled.data[next]!]!, list);
    for (let n = 0; n < list.length; n++) {
      const index = indexOf.get(list.data[n]!);
      if (index === undefined || --waiting[index]! > 0) continue;
      ledger.load(list.data[n]!, node);
      poured[index] = 1;
      let carried = 0n;
      for (let i = 0; i < node.ins; i++) {
        const place = placeOf[node.inputs[node.inAt + i]!]!;
        if (place > 0) carried += taking(place - 1, node.inCodes[node.inCodesAt + i]!);
      }
      pour(carried, (place, share) => {
        content[place]! += share;
      });
      for (let o = 0; o < node.outs; o++) {
        const place = placeOf[node.outputs[node.outAt + o]!]!;
        if (place > 0 && --open[place - 1]! === 0) settle(place - 1);
      }
    }
  }
  const loose = Array.from({ length: nodes.length }, (_, n) => n).filter((n) => poured[n] === 0);
  if (loose.length > 0) carryRound();
  return content;

  /**
   * Marks in loops: what arrived is passed on, what comes back is passed on again, until the rest
   * is below any scale.
   */
  function carryRound(): void {
    let fresh = new Map<number, bigint>();
    for (const n of loose) {
      ledger.load(nodes.data[n]!, node);
      for (let i = 0; i < node.ins; i++) {
        const place = placeOf[node.inputs[node.inAt + i]!]!;
        if (place > 0 && content[place - 1] !== 0n) fresh.set(place - 1, content[place - 1]!);
      }
    }
    for (let round = 0; round < MOST_ROUNDS && fresh.size > 0; round++) {
      const arriving = new Map<number, bigint>();
      for (const n of loose) {
        ledger.load(nodes.data[n]!, node);
        let carried = 0n;
        for (let i = 0; i < node.ins; i++) {
          const place = placeOf[node.inputs[node.inAt + i]!]!,
            amount = place > 0 ? fresh.get(place - 1) : undefined,
            whole = amount === undefined ? 0n : totals(place - 1);
          if (amount !== undefined && whole !== 0n)
            carried += (amount * ledger.micro(node.inCodes[node.inCodesAt + i]!)) / whole;
        }
        if (carried < NOTHING) continue;
        pour(carried, (place, share) => {
          arriving.set(place, (arriving.get(place) ?? 0n) + share);
        });
      }
      for (const [place, amount] of arriving) content[place]! += amount;
      fresh = arriving;
    }
  }
}

interface Weights {
  outs: number;
  weights: bigint[];
  sum: bigint;
  /** The last output that was reached. */ last: number;
}

/**
 * How the outputs of the loaded node share: by quantity where they have one unit, otherwise by the
 * shares stated, otherwise equally.
 */
function sharer(
  ledger: OpenLedger,
  node: ReturnType<typeof nodePlace>,
  placeOf: Uint32Array,
  unitOf: (product: number) => number
): () => Weights {
  const alone: Weights = { outs: 1, weights: [1n], sum: 1n, last: 0 };
  return () => {
    const { outs } = node;
    if (outs === 1) return alone;
    let unit = -1,
      oneUnit = true,
      stated = node.shares !== null,
      last = -1;
    for (let o = 0; o < outs; o++) {
      const mark = node.outputs[node.outAt + o]!;
      if (placeOf[mark] === 0) continue;
      last = o;
      const its = unitOf(ledger.productOf(mark));
      if (unit === -1) unit = its;
      else if (its !== unit) oneUnit = false;
      if (node.shares?.[node.sharesAt + o] === 0) stated = false;
    }
    const weights: bigint[] = [];
    let sum = 0n;
    for (let o = 0; o < outs; o++) {
      const counts = placeOf[node.outputs[node.outAt + o]!]! > 0;
      const weight = !counts
        ? 0n
        : oneUnit
          ? ledger.micro(node.outCodes[node.outCodesAt + o]!)
          : stated
            ? ledger.share(node.shares![node.sharesAt + o]!)
            : 1n;
      weights.push(weight);
      sum += weight;
    }
    return { outs, weights, sum, last };
  };
}
