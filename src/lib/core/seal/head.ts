/** How many events a sealed ledger has, what they come to, and when that was said. */
export interface Head {
  size: number;
  /** Root of the tree, hexadecimal. */
  root: string;
  /** RFC 3339. */
  at: string;
}

/**
 * What is signed of a head: three lines under a name, so that a signature of ours passes for nothing
 * else. Anybody can make it from a head, and check it with any Ed25519 (RFC 8032).
 */
export const headText = ({ size, root, at }: Head): string =>
  `Earmark sealed ledger\n${size}\n${root}\n${at}\n`;
