import type { Graph, MadeMark, UsedMark } from '../graph.ts';
import { Column } from './column.ts';
import { sayMicro } from './amounts.ts';
import { nodePlace, type OpenLedger } from './open-ledger.ts';
import type { Reached } from './reached.ts';

/**
 * The genealogy of a trace in few arrays, to hand from one thread to another: per node its type (0
 * made, 1 member, 2 fitted, 3 removed), transformation, event, how many inputs and outputs; then all marks and
 * amounts, inputs before outputs. Amounts are places in `amounts`; `shares` likewise, 0 for none
 * stated.
 */
export interface PackedGraph {
  nodes: Uint32Array;
  marks: Uint32Array;
  quantities: Uint32Array;
  shares: Uint32Array;
  amounts: string[];
}

const TYPES = ['made', 'member', 'fitted', 'removed'] as const;
const PER_NODE = 5;

export function packedGraph(ledger: OpenLedger, reached: Reached): PackedGraph {
  const nodes = new Column(),
    marks = new Column(),
    quantities = new Column(),
    shares = new Column();
  const texts: string[] = [''],
    places = new Map<string, number>(),
    codes = new Map<number, number>(),
    shareCodes = new Map<number, number>();
  const place = (text: string): number => {
    let at = places.get(text);
    if (at === undefined) {
      places.set(text, (at = texts.length));
      texts.push(text);
    }
    return at;
  };
  const amountOf = (code: number): number => {
    let at = codes.get(code);
    if (at === undefined) codes.set(code, (at = place(sayMicro(ledger.micro(code)))));
    return at;
  };
  const shareOf = (code: number): number => {
    let at = shareCodes.get(code);
    if (at === undefined)
      shareCodes.set(code, (at = code === 0 ? 0 : place(sayShare(ledger.share(code)))));
    return at;
  };
  const node = nodePlace();
  for (let n = 0; n < reached.nodes.length; n++) {
    const id = reached.nodes.data[n]!;
    ledger.load(id, node);
    nodes.push(TYPES.indexOf(node.type));
    nodes.push(node.transformation);
    nodes.push(node.event);
    const counts = nodes.length;
    nodes.push(0);
    nodes.push(0);
    for (let i = 0; i < node.ins; i++) {
      const mark = node.inputs[node.inAt + i]!;
      if (!reached.keepsInput(id, node, i)) continue;
      nodes.data[counts]!++;
      marks.push(mark);
      quantities.push(amountOf(node.inCodes[node.inCodesAt + i]!));
      shares.push(0);
    }
    for (let o = 0; o < node.outs; o++) {
      const mark = node.outputs[node.outAt + o]!;
      if (!reached.keepsOutput(id, node, o)) continue;
      nodes.data[counts + 1]!++;
      marks.push(mark);
      quantities.push(amountOf(node.outCodes[node.outCodesAt + o]!));
      shares.push(node.shares ? shareOf(node.shares[node.sharesAt + o]!) : 0);
    }
  }
  const kept = ({ data, length }: Column) => data.slice(0, length);
  return {
    nodes: kept(nodes),
    marks: kept(marks),
    quantities: kept(quantities),
    shares: kept(shares),
    amounts: texts
  };
}

/** The same as the rest of the core reads it. */
export function graphOf({ nodes, marks, quantities, shares, amounts }: PackedGraph): Graph {
  const transformations: { id: number; event: number; inputs: UsedMark[]; outputs: MadeMark[] }[] =
      [],
    members: Graph['members'][number][] = [],
    fittings: Graph['fittings'][number][] = [],
    removals: Graph['fittings'][number][] = [];
  let at = 0;
  for (let n = 0; n < nodes.length; n += PER_NODE) {
    const type = TYPES[nodes[n]!]!,
      event = nodes[n + 2]!,
      ins = nodes[n + 3]!,
      outs = nodes[n + 4]!;
    if (type === 'member') members.push({ lot: marks[at]!, serial: marks[at + 1]!, event });
    else if (type === 'fitted')
      fittings.push({
        component: marks[at]!,
        host: marks[at + 1]!,
        quantity: amounts[quantities[at]!]!,
        event
      });
    else if (type === 'removed')
      removals.push({
        host: marks[at]!,
        component: marks[at + 1]!,
        quantity: amounts[quantities[at]!]!,
        event
      });
    else {
      const inputs: UsedMark[] = [],
        outputs: MadeMark[] = [];
      for (let i = 0; i < ins; i++)
        inputs.push({ mark: marks[at + i]!, quantity: amounts[quantities[at + i]!]! });
      for (let o = 0; o < outs; o++) {
        const one = at + ins + o;
        outputs.push({
          mark: marks[one]!,
          quantity: amounts[quantities[one]!]!,
          share: shares[one] === 0 ? null : amounts[shares[one]!]!
        });
      }
      transformations.push({ id: nodes[n + 1]!, event, inputs, outputs });
    }
    at += ins + outs;
  }
  return { transformations, members, fittings, removals };
}

/** Twelve places, as the ledger's numeric writes a share. */
const sayShare = (share: bigint): string =>
  `${share / 1_000_000_000_000n}.${String(share % 1_000_000_000_000n).padStart(12, '0')}`;
