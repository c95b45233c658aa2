import { presenceIn, type HostAct, type Presence } from '../presence.ts';
import { Column } from './column.ts';
import { eventKindCode } from './packed-ledger.ts';
import { nodePlace, type LoadedNode, type OpenLedger } from './open-ledger.ts';

const TEARDOWN = eventKindCode('teardown');
const SERIAL = 2;

/** Whether what comes out of a loaded node is what was in it, unmixed. */
export const separates = (ledger: OpenLedger, node: LoadedNode): boolean =>
  node.type === 'removed' || (node.type === 'made' && ledger.eventKind(node.event) === TEARDOWN);

/** Whether a mark is one unit. */
export const isSingle = (ledger: OpenLedger, mark: number): boolean =>
  ledger.markWord(mark) % 4 === SERIAL;

export const partKey = (node: number, part: number, host: number): string =>
  `${node} ${part} ${host}`;

/**
 * How long parts stayed in a host and what was in it when it was taken apart.
 * @param holds whether a node counts
 */
export function hostPresence(
  ledger: OpenLedger,
  host: number,
  holds: (id: number, node: LoadedNode) => boolean
): Presence {
  const acts: HostAct[] = [];
  const list = new Column(16),
    node = nodePlace();
  for (const side of ['up', 'down'] as const) {
    if (side === 'up') ledger.nodesUp(host, list);
    else ledger.nodesDown(host, list);
    for (let n = 0; n < list.length; n++) {
      const id = list.data[n]!;
      ledger.load(id, node);
      if (!holds(id, node)) continue;
      const found =
        side === 'up' ? wentIn(ledger, node, id, host) : cameOut(ledger, node, id, host);
      acts.push(...found);
    }
  }
  acts.sort((a, b) => a.event - b.event);
  return presenceIn(acts, isSingle(ledger, host));
}

const inMicro = (ledger: OpenLedger, node: LoadedNode, at: number): number =>
  Number(ledger.micro(node.inCodes[node.inCodesAt + at]!));
const outMicro = (ledger: OpenLedger, node: LoadedNode, at: number): number =>
  Number(ledger.micro(node.outCodes[node.outCodesAt + at]!));

/** What a loaded node put into a host. */
function wentIn(ledger: OpenLedger, node: LoadedNode, id: number, host: number): HostAct[] {
  const { event } = node;
  if (node.type === 'fitted') {
    const part = node.inputs[node.inAt]!;
    const quantity = inMicro(ledger, node, 0);
    return [{ act: 'in', key: partKey(id, part, host), event, part, quantity }];
  }
  if (node.type !== 'made' || separates(ledger, node)) return [];
  let all = 0,
    made = 0;
  for (let o = 0; o < node.outs; o++) {
    const amount = outMicro(ledger, node, o);
    all += amount;
    if (node.outputs[node.outAt + o] === host) made += amount;
  }
  const acts: HostAct[] = [];
  for (let i = 0; i < node.ins; i++) {
    const part = node.inputs[node.inAt + i]!;
    if (part === host) continue;
    const quantity = (inMicro(ledger, node, i) * made) / all;
    acts.push({ act: 'in', key: partKey(id, part, host), event, part, quantity });
  }
  if (!node.shared) acts.push({ act: 'made', event, quantity: made });
  return acts;
}

/** What a loaded node took out of a host. */
function cameOut(ledger: OpenLedger, node: LoadedNode, id: number, host: number): HostAct[] {
  const { event } = node;
  if (node.type === 'removed') {
    const part = node.outputs[node.outAt]!;
    return [{ act: 'out', event, part, quantity: inMicro(ledger, node, 0) }];
  }
  if (!separates(ledger, node)) return [];
  const out = new Map<number, number>();
  for (let o = 0; o < node.outs; o++) {
    const part = node.outputs[node.outAt + o]!;
    out.set(part, (out.get(part) ?? 0) + outMicro(ledger, node, o));
  }
  const acts: HostAct[] = [];
  for (let i = 0; i < node.ins; i++)
    if (node.inputs[node.inAt + i] === host)
      acts.push({ act: 'apart', key: String(id), event, taken: inMicro(ledger, node, i), out });
  return acts;
}
