import type { Proof, SignedHead } from '../../core/seal/proof.ts';
import { consistencyProof, inclusionProof } from '../../core/seal/tree.ts';
import type { Db } from '../kernel/db/client.ts';
import { notFound, Problem } from '../kernel/problem.ts';
import { hashOfLeaf } from './hash-of-leaf.ts';
import { leavesOf, partsOf, unpackParts } from './leaves.ts';
import { hexOf, withNodes } from './nodes.ts';

interface HeadRow {
  size: number;
  root: Uint8Array;
  sealed_at: Date;
  key: Uint8Array;
  signature: Uint8Array;
}

const headOf = (row: HeadRow): SignedHead => ({
  size: row.size,
  root: hexOf(row.root),
  at: row.sealed_at.toISOString(),
  key: Buffer.from(row.key).toString('base64'),
  signature: Buffer.from(row.signature).toString('base64')
});

/** Heads, the latest first; so many at most. */
export async function readHeads(db: Db, most: number | null = null): Promise<SignedHead[]> {
  const rows = await db<HeadRow[]>`
    SELECT size, root, sealed_at, key, signature FROM seal_head ORDER BY size DESC LIMIT ${most}
  `;
  return rows.map(headOf);
}

/** The latest head; null where nothing is sealed yet. */
export const readHead = async (db: Db): Promise<SignedHead | null> =>
  (await readHeads(db, 1))[0] ?? null;

/**
 * The latest head, and what shows that it goes on from an earlier one.
 * @param from events of the earlier head
 * @throws Problem 404 where nothing is sealed yet, or the earlier had more events than this
 */
export async function readCheckpoint(
  db: Db,
  from: number | undefined
): Promise<{ head: SignedHead; consistency?: string[] }> {
  const head = (await readHead(db)) ?? notFound('sealed event', 'yet');
  if (from === undefined) return { head };
  if (from > head.size) notFound('head of so many events', String(from));
  return { head, consistency: await readConsistency(db, from, head.size) };
}

/** What shows that the ledger of so many events begins as the one of fewer, hexadecimal. */
export async function readConsistency(db: Db, from: number, size: number): Promise<string[]> {
  const proof = await withNodes(db, (nodeAt) => consistencyProof(from, size, nodeAt));
  return proof.map(hexOf);
}

/**
 * What shows that an event is in the sealed ledger as it stands now.
 * @throws Problem 404, 409 where it is not sealed yet, or is not what was sealed
 */
export async function proveEvent(db: Db, event: number): Promise<Proof> {
  const [leaf] = await leavesOf(db, [event]);
  if (!leaf) notFound('event', String(event));
  const [sealed] = await db<{ position: number; parts: Uint8Array }[]>`
    SELECT position, parts FROM seal_leaf WHERE event_id = ${event}
  `;
  const head = await readHead(db);
  if (!sealed || !head || sealed.position >= head.size) throw notYet(event);
  const { position } = sealed;
  const { path, hash } = await withNodes(db, (nodeAt) => ({
    path: inclusionProof(position, head.size, nodeAt),
    hash: nodeAt(0, position)
  }));
  if (hexOf(hash) !== hexOf(hashOfLeaf([leaf.text])))
    throw altered(event, alteredParts(leaf.text, sealed.parts));
  return { event, entry: leaf.text, position, path: path.map(hexOf), head };
}

/** The parts of a leaf that are not what was sealed. */
export function alteredParts(text: string, sealed: Uint8Array): string[] {
  const [now, then] = [partsOf(text), unpackParts(sealed)];
  const names = new Set([...now.keys(), ...then.keys()]);
  return [...names].filter((name) => now.get(name) !== then.get(name)).sort();
}

const notYet = (event: number): Problem =>
  new Problem(409, 'The event is not sealed yet', [
    {
      code: 'seal.waiting',
      path: 'event',
      number: String(event),
      message: `Event ${event} is booked and will be sealed in a moment. Ask again.`
    }
  ]);

const altered = (event: number, parts: readonly string[]): Problem =>
  new Problem(409, 'The event is not what was sealed', [
    {
      code: 'seal.broken',
      path: 'event',
      number: String(event),
      message: `What stands of event ${event} now is not what was sealed: ${parts.join(', ') || 'its form'}. Somebody altered the database. Keep it as it is, and tell who looks after it.`
    }
  ]);
