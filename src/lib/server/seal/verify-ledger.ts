import { createPublicKey, verify } from 'node:crypto';
import { headText } from '../../core/seal/head.ts';
import type { SignedHead } from '../../core/seal/proof.ts';
import { append, hashOf, leafHash, type Hash, type NodeAt } from '../../core/seal/tree.ts';
import type { Db } from '../kernel/db/client.ts';
import { leavesOf } from './leaves.ts';
import { hexOf } from './nodes.ts';
import { alteredParts, readHeads } from './read-seal.ts';

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

const AT_ONCE = 5_000;
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
  const tree = new Tree();
  for (const head of heads) {
    while (tree.size < head.size) {
      const most = Math.min(AT_ONCE, head.size - tree.size);
      const read = await readSealed(db, tree.size, most);
      if (read.length === 0) break;
      for (const one of read) {
        if (one.broken && breaks.length < MOST_BREAKS) breaks.push(one.broken);
      }
      tree.grow(read.map((one) => one.sealed));
    }
    if (tree.size < head.size || tree.root() !== head.root)
      breaks.push({ head: head.size, says: 'its events do not come to what it says' });
    if (!isSigned(head) || (key !== undefined && head.key !== key))
      breaks.push({ head: head.size, says: 'it was not signed by our key' });
  }
  return { events: tree.size, heads: heads.length, breaks };
}

/** Leaves in their order: the hash that was sealed, and what is not as it was. */
async function readSealed(
  db: Db,
  from: number,
  most: number
): Promise<{ sealed: Hash; broken: SealBreak | null }[]> {
  const rows = await db<{ event: number; parts: Uint8Array; hash: Uint8Array | null }[]>`
    SELECT l.event_id AS event, l.parts, n.hash
    FROM seal_leaf l
      LEFT JOIN seal_node n ON n.level = 0 AND n.index = l.position
    WHERE l.position >= ${from} AND l.position < ${from + most}
    ORDER BY l.position
  `;
  const leaves = await leavesOf(
    db,
    rows.map((row) => row.event)
  );
  const textOf = new Map(leaves.map((leaf) => [leaf.event, leaf.text]));
  return rows.map(({ event, parts, hash }) => {
    const text = textOf.get(event);
    const now = leafHash(Buffer.from(text ?? ''));
    const sealed = hash ?? new Uint8Array(32);
    if (Buffer.compare(now, sealed) === 0) return { sealed, broken: null };
    const named = text === undefined ? ['all of it'] : alteredParts(text, parts);
    const says = `not what was sealed: ${named.join(', ') || 'its hash'}`;
    return { sealed, broken: { event, says } };
  });
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
