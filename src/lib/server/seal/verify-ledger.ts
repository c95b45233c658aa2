import { createPublicKey, verify } from 'node:crypto';
import { headText } from '../../core/seal/head.ts';
import type { SignedHead } from '../../core/seal/proof.ts';
import { append, hashOf, type Hash, type NodeAt } from '../../core/seal/tree.ts';
import { within, type Db, type Tx } from '../kernel/db/client.ts';
import { CopiedLeaves } from './copied-leaves.ts';
import { hashOfLeaf } from './hash-of-leaf.ts';
import { leavesOf } from './leaves.ts';
import { hexOf } from './nodes.ts';
import { alteredParts, readHeads } from './read-seal.ts';
import { readSealedColumns } from './sealed-columns.ts';

/** What is not as it was sealed. */
export interface SealBreak {
  event?: number;
  head?: number;
  says: string;
}
export interface Verified {
  events: number;
  heads: number;
  breaks: SealBreak[];
}

/** Events that are looked at together: as many as come to about so much text. */
const TEXT_AT_ONCE = 16_000_000;
const MOST_AT_ONCE = 20_000;
const MOST_BREAKS = 1_000;
/** An Ed25519 key of 32 bytes as SubjectPublicKeyInfo begins with these (RFC 8410). */
const SPKI = Buffer.from('302a300506032b6570032100', 'hex');

/**
 * Whether a head was signed by the key it names, by Node.js itself: there may be a head for every
 * ten seconds of years, and the core's own way takes many times as long for each.
 */
function isSigned(head: SignedHead): boolean {
  const der = Buffer.concat([SPKI, Buffer.from(head.key, 'base64')]);
  const key = createPublicKey({ key: der, format: 'der', type: 'spki' });
  return verify(null, Buffer.from(headText(head)), key, Buffer.from(head.signature, 'base64'));
}

/**
 * Goes through the whole sealed ledger: every event as it stands now against what was sealed, every
 * head against the events before it, every signature.
 * @param key the public key heads should be signed with, in base64; whichever where it is not known
 * @param witnessed heads that were kept elsewhere, which the ledger must go on from
 */
export async function verifyLedger(
  db: Db,
  key?: string,
  witnessed: readonly SignedHead[] = []
): Promise<Verified> {
  const breaks: SealBreak[] = [];
  const heads = [...(await readHeads(db)), ...witnessed].sort((a, b) => a.size - b.size);
  const columns = await readSealedColumns(db);
  const tree = new Tree();
  let atOnce = 500;
  for (const head of heads) {
    while (tree.size < head.size) {
      const most = Math.min(atOnce, head.size - tree.size);
      const { leaves, length } = await inLanes(db, (lanes) =>
        readSealed(new CopiedLeaves(lanes, columns), lanes[0], tree.size, most)
      );
      if (leaves.length === 0) break;
      for (const one of leaves) {
        if (one.broken && breaks.length < MOST_BREAKS) breaks.push(one.broken);
      }
      tree.grow(leaves.map((one) => one.sealed));
      const each = Math.max(length / leaves.length, 1);
      atOnce = Math.max(1, Math.min(MOST_AT_ONCE, Math.round(TEXT_AT_ONCE / each)));
    }
    if (tree.size < head.size || tree.root() !== head.root)
      breaks.push({ head: head.size, says: 'its events do not come to what it says' });
    if (!isSigned(head) || (key !== undefined && head.key !== key))
      breaks.push({ head: head.size, says: 'it was not signed by our key' });
  }
  return { events: tree.size, heads: heads.length, breaks };
}

/**
 * What was sealed does not change, so it is read over two connections: while one waits for the
 * database, what came over the other is worked off. Within a transaction that is given, over that.
 */
async function inLanes<T>(db: Db, work: (lanes: [Tx, ...Tx[]]) => Promise<T>): Promise<T> {
  if ('savepoint' in db || db.options.max < 2) return within(db, (tx) => work([tx]));
  return (await db.begin((one) => db.begin((other) => work([one, other])))) as T;
}

interface SealedLeaf {
  /** The hash that was sealed. */
  sealed: Hash;
  broken: SealBreak | null;
}

/** Leaves in their order with what is not as it was, and the length of their text. */
async function readSealed(
  copied: CopiedLeaves,
  tx: Tx,
  from: number,
  most: number
): Promise<{ leaves: SealedLeaf[]; length: number }> {
  const rows = await tx<SealedRow[]>`
    SELECT l.event_id AS event, l.parts, n.hash
    FROM seal_leaf l
      LEFT JOIN seal_node n ON n.level = 0 AND n.index = l.position
    WHERE l.position >= ${from} AND l.position < ${from + most}
    ORDER BY l.position
  `;
  if (rows.length === 0) return { leaves: [], length: 0 };
  const events = rows.map((row) => row.event);
  const { hashes, length } = await hashCopied(copied, events);
  const others = rows.filter(({ event, hash }) => !hash || !hashes.get(event)?.equals(hash));
  const broken = await readBroken(tx, others);
  return {
    leaves: rows.map(({ event, hash }) => ({
      sealed: hash ?? new Uint8Array(32),
      broken: broken.get(event) ?? null
    })),
    length
  };
}

interface SealedRow {
  event: number;
  parts: Uint8Array;
  hash: Uint8Array | null;
}

/** The hashes of events as their rows are copied out, and how long they are together. */
async function hashCopied(
  copied: CopiedLeaves,
  events: readonly number[]
): Promise<{ hashes: Map<number, Buffer>; length: number }> {
  const hashes = new Map<number, Buffer>();
  let length = 0;
  await copied.each(events, (event, pieces) => {
    hashes.set(event, hashOfLeaf(pieces));
    for (const piece of pieces) length += piece.length;
  });
  return { hashes, length };
}

/** What is not as it was sealed among these, by the form PostgreSQL itself writes. */
async function readBroken(tx: Tx, rows: readonly SealedRow[]): Promise<Map<number, SealBreak>> {
  const leaves = await leavesOf(
    tx,
    rows.map((row) => row.event)
  );
  const textOf = new Map(leaves.map((leaf) => [leaf.event, leaf.text]));
  const breaks = rows.flatMap(({ event, parts, hash }): SealBreak[] => {
    const text = textOf.get(event);
    if (text !== undefined && hash && hashOfLeaf([text]).equals(hash)) return [];
    const named = text === undefined ? ['all of it'] : alteredParts(text, parts);
    return [{ event, says: `not what was sealed: ${named.join(', ') || 'its hash'}` }];
  });
  return new Map(breaks.map((one) => [one.event!, one]));
}

/** A tree that only grows, with no more kept than it needs to. */
class Tree {
  size = 0;
  private peaks = new Map<string, Hash>();
  private readonly nodeAt: NodeAt = (level, index) => this.peaks.get(`${level} ${index}`)!;

  grow(leaves: readonly Hash[]): void {
    for (const { level, index, hash } of append(this.size, this.nodeAt, leaves)) {
      this.peaks.set(`${level} ${index}`, hash);
      if (level > 0) {
        this.peaks.delete(`${level - 1} ${2 * index}`);
        this.peaks.delete(`${level - 1} ${2 * index + 1}`);
      }
    }
    this.size += leaves.length;
  }

  root(): string {
    return hexOf(hashOf(0, this.size, this.nodeAt));
  }
}
