import type { Hash, NodeAt } from '../../core/seal/tree.ts';
import type { Db } from '../kernel/db/client.ts';

/**
 * Works something out from full subtrees of the sealed ledger: what it asks for is looked up at once
 * and not one by one, so it is asked twice, the first time to hear what it needs.
 */
export async function withNodes<T>(db: Db, work: (nodeAt: NodeAt) => T): Promise<T> {
  const asked = new Map<string, [level: number, index: number]>();
  const nothing: Hash = new Uint8Array(32);
  work((level, index) => {
    asked.set(`${level} ${index}`, [level, index]);
    return nothing;
  });
  const wanted = [...asked.values()];
  const rows = await db<{ level: number; index: number; hash: Uint8Array }[]>`
    SELECT n.level, n.index, n.hash
    FROM unnest(
      ${wanted.map(([level]) => level)}::int[], ${wanted.map(([, index]) => index)}::bigint[]
    ) AS w (level, index)
      JOIN seal_node n ON n.level = w.level AND n.index = w.index
  `;
  const known = new Map(rows.map((row) => [`${row.level} ${row.index}`, row.hash]));
  return work((level, index) => known.get(`${level} ${index}`)!);
}
