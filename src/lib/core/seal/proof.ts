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

/** An event of a proof of many: its path as places in the hashes they share. */
export interface ProvenEvent {
  event: number;
  entry: string;
  position: number;
  path: number[];
}

/** What shows that all events a trace, a case or a certificate rests on are sealed, unaltered. */
export interface ProofOfMany {
  /** What rests on them, in words. */
  of: string;
  head: SignedHead;
  events: ProvenEvent[];
  hashes: string[];
}
