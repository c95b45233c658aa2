import { createHash } from 'node:crypto';
import { LEAF } from '../../core/seal/tree.ts';

const FIRST_OF_LEAF = Buffer.of(LEAF);

/**
 * A leaf's hash, of its text or of pieces of it, by Node.js itself: a leaf may have megabytes, and
 * millions are asked. Else as the core's `leafHash`, which pages in a browser use.
 */
export function hashOfLeaf(pieces: readonly (string | Buffer)[]): Buffer {
  const hash = createHash('sha256').update(FIRST_OF_LEAF);
  for (const piece of pieces) hash.update(piece);
  return hash.digest();
}
