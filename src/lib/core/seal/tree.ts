import { sha256 } from '@noble/hashes/sha2.js';

/** SHA-256, 32 bytes. */
export type Hash = Uint8Array;

/** What a leaf and what a node is hashed with first, so that neither passes for the other. */
export const LEAF = 0x00;
const NODE = 0x01;

/** The hash of one entry. Source: RFC 9162, section 2.1.1. */
export const leafHash = (entry: Uint8Array): Hash => {
  const bytes = new Uint8Array(entry.length + 1);
  bytes[0] = LEAF;
  bytes.set(entry, 1);
  return sha256(bytes);
};

/** The hash of what stands left and right below it. Source: RFC 9162, section 2.1.1. */
export const nodeHash = (left: Hash, right: Hash): Hash => {
  const bytes = new Uint8Array(65);
  bytes[0] = NODE;
  bytes.set(left, 1);
  bytes.set(right, 33);
  return sha256(bytes);
};

/** A full subtree: its 2^level leaves begin at index · 2^level. Level 0 is a leaf. */
export interface FullNode {
  level: number;
  index: number;
  hash: Hash;
}
/** The hash of a full subtree that is known. */
export type NodeAt = (level: number, index: number) => Hash;

/** The full subtrees a tree of so many leaves falls into, largest first. */
export function peaksOf(size: number): Omit<FullNode, 'hash'>[] {
  const peaks: Omit<FullNode, 'hash'>[] = [];
  let begun = 0;
  while (begun < size) {
    const level = Math.floor(Math.log2(size - begun));
    peaks.push({ level, index: begun / 2 ** level });
    begun += 2 ** level;
  }
  return peaks;
}

/**
 * Appends leaves to a tree.
 * @param size leaves it has
 * @param nodeAt gives its peaks
 * @returns every full subtree that is complete by them, the leaves too
 */
export function append(size: number, nodeAt: NodeAt, leaves: readonly Hash[]): FullNode[] {
  const left = new Map(peaksOf(size).map(({ level, index }) => [level, nodeAt(level, index)]));
  return leaves.flatMap((leaf, at) => {
    const made: FullNode[] = [{ level: 0, index: size + at, hash: leaf }];
    let node = made[0]!;
    // A subtree at an odd place is the right half of the next larger one.
    while (node.index % 2 === 1) {
      const hash = nodeHash(left.get(node.level)!, node.hash);
      left.delete(node.level);
      node = { level: node.level + 1, index: (node.index - 1) / 2, hash };
      made.push(node);
    }
    left.set(node.level, node.hash);
    return made;
  });
}

/** The hash of the tree of the leaves from `start` to before `end`. Source: RFC 9162, 2.1.1. */
export function hashOf(start: number, end: number, nodeAt: NodeAt): Hash {
  const size = end - start;
  if (size === 0) return sha256(new Uint8Array(0));
  const level = Math.log2(size);
  if (Number.isInteger(level)) return nodeAt(level, start / size);
  const half = largestPowerBelow(size);
  return nodeHash(hashOf(start, start + half, nodeAt), hashOf(start + half, end, nodeAt));
}

/** The largest power of two that is smaller than a number above 1. */
const largestPowerBelow = (size: number): number => 2 ** Math.ceil(Math.log2(size) - 1);

/**
 * What shows that a leaf is in a tree, from beside it to the root. Source: RFC 9162, 2.1.3.1.
 * @param index of the leaf, from 0
 * @param size leaves of the tree
 */
export function inclusionProof(index: number, size: number, nodeAt: NodeAt): Hash[] {
  const path = (at: number, start: number, end: number): Hash[] => {
    if (end - start === 1) return [];
    const middle = start + largestPowerBelow(end - start);
    return at < middle
      ? [...path(at, start, middle), hashOf(middle, end, nodeAt)]
      : [...path(at, middle, end), hashOf(start, middle, nodeAt)];
  };
  return path(index, 0, size);
}

/**
 * What shows that a tree began as a smaller one was. Source: RFC 9162, 2.1.4.1.
 * @param first leaves of the smaller, at least 1
 * @param second leaves of the larger
 */
export function consistencyProof(first: number, second: number, nodeAt: NodeAt): Hash[] {
  const proof = (start: number, end: number, isKnown: boolean): Hash[] => {
    if (first === end) return isKnown ? [] : [hashOf(start, end, nodeAt)];
    const middle = start + largestPowerBelow(end - start);
    return first <= middle
      ? [...proof(start, middle, isKnown), hashOf(middle, end, nodeAt)]
      : [...proof(middle, end, false), hashOf(start, middle, nodeAt)];
  };
  return first === second ? [] : proof(0, second, true);
}
