import { contentOfMicro } from './amounts.ts';
import { isSingle } from './host-presence.ts';
import { nodePlace } from './open-ledger.ts';
import { ONE, type ContentQuestion } from './parts-inside.ts';

/**
 * What marks come to that are the root themselves: a unit holds itself, however often it was made;
 * a lot comes to what was kept of it as such, and the serials within it.
 */
export function settleOwn({ ledger, reached, own }: ContentQuestion, reported: bigint[]): void {
  const one = contentOfMicro(ONE);
  for (let place = 0; place < reported.length; place++)
    if (reported[place]! > one && own[place] === 1 && isSingle(ledger, reached.marks.data[place]!))
      reported[place] = one;
  const node = nodePlace();
  const placeOf = (mark: number): number => reached.placeOf[mark]! - 1;
  for (let n = 0; n < reached.nodes.length; n++) {
    if (!ledger.isMember(reached.nodes.data[n]!)) continue;
    ledger.load(reached.nodes.data[n]!, node);
    const lot = placeOf(node.inputs[node.inAt]!),
      serial = placeOf(node.outputs[node.outAt]!);
    if (own[lot] === 1 && own[serial] === 1) reported[lot]! += reported[serial]!;
  }
}
