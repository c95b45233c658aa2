import { hexToBytes } from '@noble/hashes/utils.js';
import { isHeadSigned } from './check-proof.ts';
import type { SignedHead } from './proof.ts';
import { beginsAs } from './verify.ts';

/** What is sent to a witness. */
export interface Testimony {
  head: SignedHead;
  /** The head that was sent before; null for the first. */
  before: SignedHead | null;
  /** What shows that the new one goes on from it (RFC 9162, 2.1.4). */
  consistency: string[];
}

/**
 * Why a witness does not take a head; null where it does. It remembers the last it took, and asks
 * that the next goes on from it, signed by the same key.
 */
export function whyRefused(
  last: SignedHead | null,
  { head, consistency }: Testimony
): string | null {
  if (!isHeadSigned(head)) return 'The head is not signed by the key it names.';
  if (last === null) return null;
  if (head.key !== last.key) return 'The head is signed by another key than the one before.';
  const [first, second] = [last, head].map(({ size, root }) => ({ size, root: hexToBytes(root) }));
  return beginsAs(first!, second!, consistency.map(hexToBytes))
    ? null
    : `The ledger of ${head.size} events does not go on from the ${last.size} it had before.`;
}
