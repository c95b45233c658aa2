import type { Head } from './head.ts';

/** A head with who signed it: the key and the signature in base64 (Ed25519, RFC 8032). */
export interface SignedHead extends Head {
  key: string;
  signature: string;
}

/** What shows that an event is in the sealed ledger, unaltered, without asking anybody. */
export interface Proof {
  event: number;
  /** The event with all its rows, in the form that was sealed. */
  entry: string;
  /** Its place in the tree of the head, from 0. */
  position: number;
  /** Hashes from beside it up to the root, hexadecimal (RFC 9162, 2.1.3). */
  path: string[];
  head: SignedHead;
}
