import { append, hashOf, peaksOf, type FullNode, type Hash } from '../../core/seal/tree.ts';
import { inStretches, mapInStretches } from '../kernel/let-others-in.ts';
import { within, type Sql, type Tx } from '../kernel/db/client.ts';
import { hashOfLeaf } from './hash-of-leaf.ts';
import { leavesOf, packParts, partsOf, type Leaf } from './leaves.ts';
import { hexOf, nodeAtOf, readNodes } from './nodes.ts';
import type { SealKey } from './seal-key.ts';

/** Any constant: one seals at a time, whichever process it is in. */
const SEAL_LOCK = 7_106_551_933;
/** Events that are sealed at once. */
const AT_ONCE = 2_000;
/** Events whose leaves are read at once. */
const READ_AT_ONCE = 100;

/**
 * Seals what was committed and is not sealed yet, and signs a head for it. It stands far from
 * booking: it reads what is over, in the order of the ledger. Where another seals, nothing is done.
 * @param whole looks at every event and not only at those since the last head: at a start, when the
 * database may be a restored one
 * @returns how many were sealed
 */
export async function sealLedger(sql: Sql, key: SealKey, { whole = false } = {}): Promise<number> {
  let [sealed, isWhole] = [0, whole];
  for (;;) {
    const now = await within(sql, (tx) => sealSome(tx, key, isWhole));
    sealed += now;
    if (now < AT_ONCE) return sealed;
    // The head that was just signed says where the rest begins.
    isWhole = false;
  }
}

async function sealSome(tx: Tx, key: SealKey, whole: boolean): Promise<number> {
  const [lock] = await tx<[{ taken: boolean }]>`
    SELECT pg_try_advisory_xact_lock(${SEAL_LOCK}::bigint) AS taken
  `;
  if (!lock.taken) return 0;
  const { until, events } = await readUnsealed(tx, whole);
  if (events.length === 0) return 0;
  const [{ size }] = await tx<[{ size: number }]>`
    SELECT coalesce(max(position) + 1, 0) AS size FROM seal_leaf
  `;
  const leaves = await hashedLeaves(tx, events);
  const hashes = leaves.map(({ hash }) => hash);
  const before = await readNodes(tx, peaksOf(size));
  const made = append(size, nodeAtOf(before), hashes);
  const root = hashOf(0, size + leaves.length, nodeAtOf([...before, ...made]));
  await writeLeaves(tx, size, leaves, made);
  await signHead(tx, key, { size: size + leaves.length, root }, until);
  return leaves.length;
}

/** A leaf as it is sealed: its text may have megabytes, and only this of it is kept. */
interface HashedLeaf {
  event: number;
  hash: Hash;
  /** Its packed parts, in hex. */
  parts: string;
}

/** Some at a time, so that not all their texts are held at once; between them others are served. */
async function hashedLeaves(tx: Tx, events: readonly number[]): Promise<HashedLeaf[]> {
  const hashed: HashedLeaf[] = [];
  for await (const some of inStretches(events, READ_AT_ONCE)) {
    const leaves = await leavesOf(tx, some);
    hashed.push(...(await mapInStretches(leaves, hashedLeaf, 1)));
  }
  return hashed;
}

const hashedLeaf = ({ event, text }: Leaf): HashedLeaf => ({
  event,
  hash: hashOfLeaf([text]),
  parts: hexOf(packParts(partsOf(text)))
});

/**
 * Events of transactions that are over and with none before them still running, which are sealed in
 * the order of their transactions: so none is passed over that commits late.
 */
async function readUnsealed(tx: Tx, whole: boolean): Promise<{ until: string; events: number[] }> {
  const [span] = await tx<[{ since: string; until: string }]>`
    SELECT coalesce((SELECT until_xid FROM seal_head ORDER BY size DESC LIMIT 1), '0')::text AS since,
      pg_snapshot_xmin(pg_current_snapshot())::text AS until
  `;
  const rows = await tx<{ id: number; xid: string }[]>`
    SELECT e.id, e.booked_xid::text AS xid
    FROM event e
    WHERE e.booked_xid < ${span.until}::xid8
      AND e.booked_xid >= ${whole ? '0' : span.since}::xid8
      AND NOT EXISTS (SELECT FROM seal_leaf l WHERE l.event_id = e.id)
    ORDER BY e.booked_xid, e.id
    LIMIT ${AT_ONCE}
  `;
  // Where more are to come, the next begin with the last of these.
  const until = rows.length < AT_ONCE ? span.until : rows.at(-1)!.xid;
  return { until, events: rows.map((row) => row.id) };
}

async function writeLeaves(
  tx: Tx,
  size: number,
  leaves: readonly HashedLeaf[],
  nodes: readonly FullNode[]
): Promise<void> {
  await tx`
    INSERT INTO seal_leaf (position, event_id, parts)
    SELECT ${size}::bigint + n - 1, id, decode(parts, 'hex')
    FROM unnest(
      ${leaves.map((leaf) => leaf.event)}::bigint[],
        ${leaves.map((leaf) => leaf.parts)}::text[]
    ) WITH ORDINALITY AS x (id, parts, n)
  `;
  await tx`
    INSERT INTO seal_node (level, index, hash)
    SELECT level, index, decode(hash, 'hex')
    FROM unnest(
      ${nodes.map((node) => node.level)}::int[], ${nodes.map((node) => node.index)}::bigint[],
        ${nodes.map((node) => hexOf(node.hash))}::text[]
    ) AS x (level, index, hash)
  `;
}

async function signHead(
  tx: Tx,
  key: SealKey,
  { size, root }: { size: number; root: Hash },
  until: string
): Promise<void> {
  const at = new Date();
  const signature = key.sign({ size, root: hexOf(root), at: at.toISOString() });
  await tx`
    INSERT INTO seal_head (size, root, sealed_at, key, signature, until_xid)
    VALUES (${size}, ${Buffer.from(root)}, ${at}, ${key.public}, ${signature}, ${until}::xid8)
  `;
}
