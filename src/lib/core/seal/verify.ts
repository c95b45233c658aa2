import { nodeHash, type Hash } from './tree.ts';

const same = (a: Hash, b: Hash): boolean => a.every((byte, at) => byte === b[at]);
const isOdd = (n: number): boolean => n % 2 === 1;
const half = (n: number): number => Math.floor(n / 2);

/**
 * Whether a leaf stands at this place of the tree that has this root. Source: RFC 9162, 2.1.3.2.
 * @param leaf hash of the leaf
 * @param index its place, from 0
 * @param size leaves of the tree
 */
export function includes(
  leaf: Hash,
  index: number,
  size: number,
  proof: readonly Hash[],
  root: Hash
): boolean {
  if (index < 0 || index >= size) return false;
  let [at, last, hash] = [index, size - 1, leaf];
  for (const beside of proof) {
    if (last === 0) return false;
    if (isOdd(at) || at === last) {
      hash = nodeHash(beside, hash);
      while (!isOdd(at) && at !== 0) [at, last] = [half(at), half(last)];
    } else hash = nodeHash(hash, beside);
    [at, last] = [half(at), half(last)];
  }
  return last === 0 && same(hash, root);
}

/**
 * Whether the larger tree began as the smaller one. Source: RFC 9162, 2.1.4.2.
 * @param first leaves and root of the smaller, at least one leaf
 */
export function beginsAs(
  first: { size: number; root: Hash },
  second: { size: number; root: Hash },
  proof: readonly Hash[]
): boolean {
  if (first.size < 1 || first.size > second.size) return false;
  if (first.size === second.size) return proof.length === 0 && same(first.root, second.root);
  const isFull = Number.isInteger(Math.log2(first.size));
  const [begin, ...rest] = isFull ? [first.root, ...proof] : proof;
  if (!begin) return false;
  let [at, last] = [first.size - 1, second.size - 1];
  while (isOdd(at)) [at, last] = [half(at), half(last)];
  let [before, now] = [begin, begin];
  for (const beside of rest) {
    if (last === 0) return false;
    if (isOdd(at) || at === last) {
      [before, now] = [nodeHash(beside, before), nodeHash(beside, now)];
      while (!isOdd(at) && at !== 0) [at, last] = [half(at), half(last)];
    } else now = nodeHash(now, beside);
    [at, last] = [half(at), half(last)];
  }
  return last === 0 && same(before, first.root) && same(now, second.root);
}
