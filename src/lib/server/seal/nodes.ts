import type { FullNode, Hash, NodeAt } from '../../core/seal/tree.ts';
import type { Db } from '../kernel/db/client.ts';

type Place = Omit<FullNode, 'hash'>;

const nameOf = (level: number, index: number): string => `${level} ${index}`;

export const hexOf = (hash: Uint8Array): string => Buffer.from(hash).toString('hex');

/** Nodes that are known, as something to be asked. */
export function nodeAtOf(nodes: readonly FullNode[]): NodeAt {
  const known = new Map(nodes.map((one) => [nameOf(one.level, one.index), one.hash]));
  return (level, index) => known.get(nameOf(level, index))!;
}

/** Full subtrees of the sealed ledger, looked up at once. */
export const readNodes = (db: Db, wanted: readonly Place[]): Promise<FullNode[]> =>
  db<FullNode[]>`
    SELECT n.level, n.index, n.hash
    FROM unnest(
      ${wanted.map((one) => one.level)}::int[], ${wanted.map((one) => one.index)}::bigint[]
    ) AS w (level, index)
      JOIN seal_node n ON n.level = w.level AND n.index = w.index
  `;

/**
 * Works something out from full subtrees of the sealed ledger. Which it needs only it knows, so it is
 * asked twice: the first time to hear what to look up, at once and not one by one.
 */
export async function withNodes<T>(db: Db, work: (nodeAt: NodeAt) => T): Promise<T> {
  const asked = new Map<string, Place>();
  const nothing: Hash = new Uint8Array(32);
  work((level, index) => {
    asked.set(nameOf(level, index), { level, index });
    return nothing;
  });
  return work(nodeAtOf(await readNodes(db, [...asked.values()])));
}
