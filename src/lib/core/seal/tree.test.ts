import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { append, consistencyProof, hashOf, inclusionProof, leafHash, type Hash } from './tree.ts';
import { beginsAs, includes } from './verify.ts';

const hex = (hash: Hash): string => Buffer.from(hash).toString('hex');

/** A tree that was appended to in these steps. */
function treeOf(entries: readonly Uint8Array[], steps: readonly number[] = [entries.length]) {
  const nodes = new Map<string, Hash>();
  const nodeAt = (level: number, index: number): Hash => nodes.get(`${level} ${index}`)!;
  let size = 0;
  for (const step of steps) {
    const leaves = entries.slice(size, size + step).map(leafHash);
    for (const { level, index, hash } of append(size, nodeAt, leaves))
      nodes.set(`${level} ${index}`, hash);
    size += leaves.length;
  }
  return { nodeAt, root: (of = entries.length) => hashOf(0, of, nodeAt) };
}

// A second implementation: the definitions of RFC 9162, section 2.1, word for word, on lists.
const sha = (...parts: Uint8Array[]): Buffer =>
  parts.reduce((hash, part) => hash.update(part), createHash('sha256')).digest();
const split = (n: number): number => {
  let k = 1;
  while (k * 2 < n) k *= 2;
  return k;
};
function mth(d: readonly Uint8Array[]): Buffer {
  if (d.length === 0) return sha();
  if (d.length === 1) return sha(Buffer.of(0), d[0]!);
  const k = split(d.length);
  return sha(Buffer.of(1), mth(d.slice(0, k)), mth(d.slice(k)));
}
function pathOf(m: number, d: readonly Uint8Array[]): Buffer[] {
  if (d.length === 1) return [];
  const k = split(d.length);
  return m < k
    ? [...pathOf(m, d.slice(0, k)), mth(d.slice(k))]
    : [...pathOf(m - k, d.slice(k)), mth(d.slice(0, k))];
}
function subproof(m: number, d: readonly Uint8Array[], b: boolean): Buffer[] {
  if (m === d.length) return b ? [] : [mth(d)];
  const k = split(d.length);
  return m <= k
    ? [...subproof(m, d.slice(0, k), b), mth(d.slice(k))]
    : [...subproof(m - k, d.slice(k), false), mth(d.slice(0, k))];
}

// The leaves and roots of Certificate Transparency's reference tests (RFC 6962, whose tree RFC 9162
// keeps); quoted from memory, recomputed by the definition above.
const LEAVES = [
  '',
  '00',
  '10',
  '2021',
  '3031',
  '40414243',
  '5051525354555657',
  '606162636465666768696a6b6c6d6e6f'
].map((text) => Buffer.from(text, 'hex'));
const ROOTS = [
  '6e340b9cffb37a989ca544e6bb780a2c78901d3fb33738768511a30617afa01d',
  'fac54203e7cc696cf0dfcb42c92a1d9dbaf70ad9e621f4bd8d98662f00e3c125',
  'aeb6bcfe274b70a14fb067a5e5578264db0fa9b51af5e0ba159158f329e06e77',
  'd37ee418976dd95753c1c73862b9398fa2a2cf9b4ff0fdfe8b30cd95209614b7',
  '4e3bbb1f7b478dcfe71fb631631519a3bca12c9aefca1612bfce4c13a86264d4',
  '76e67dadbcdf1e10e1b74ddc608abd2f98dfb16fbce75277b5232a127f2087ef',
  'ddb89be403809e325750d3d263cd78929c2942b7942a34b77e122c9594a74c8c',
  '5dc9da79a70659a9ad559cb701ded9a2ab9d823aad2f4960cfe370eff4604328'
];

describe('the tree', () => {
  it('has the roots of the reference tests', () => {
    const { root } = treeOf(LEAVES);
    expect(ROOTS.map((_, at) => hex(root(at + 1)))).toEqual(ROOTS);
    expect(hex(root(0))).toBe('e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855');
  });

  // No two alike: beside its like a leaf is shown by the same hashes.
  const some = fc
    .array(fc.uint8Array({ maxLength: 9 }), { minLength: 1, maxLength: 70 })
    .map((list) => list.map((entry, at) => Buffer.from([at, ...entry])));
  it('is that of the definition, in whatever steps it grew', () => {
    fc.assert(
      fc.property(some, fc.array(fc.integer({ min: 0, max: 20 })), (entries, steps) => {
        const { root } = treeOf(entries, [...steps, entries.length]);
        expect(hex(root())).toBe(mth(entries).toString('hex'));
      })
    );
  });

  it('shows of every leaf that it is in it, as the definition does, and of no other', () => {
    fc.assert(
      fc.property(some, fc.nat(), (entries, n) => {
        const { nodeAt, root } = treeOf(entries);
        const at = n % entries.length;
        const proof = inclusionProof(at, entries.length, nodeAt);
        expect(proof.map(hex)).toEqual(pathOf(at, entries).map((one) => one.toString('hex')));
        const leaf = leafHash(entries[at]!);
        expect(includes(leaf, at, entries.length, proof, root())).toBe(true);
        const other = leafHash(Buffer.from('something else altogether'));
        expect(includes(other, at, entries.length, proof, root())).toBe(false);
        expect(includes(leaf, at + 1, entries.length, proof, root())).toBe(false);
        expect(includes(leaf, at, entries.length, [...proof, leaf], root())).toBe(false);
        expect(includes(leaf, entries.length, entries.length, proof, root())).toBe(false);
      })
    );
  });

  it('shows that it began as an earlier one, as the definition does, and never that it did not', () => {
    fc.assert(
      fc.property(some, fc.nat(), (entries, n) => {
        const { nodeAt, root } = treeOf(entries);
        const first = 1 + (n % entries.length);
        const proof = consistencyProof(first, entries.length, nodeAt);
        const defined = first === entries.length ? [] : subproof(first, entries, true);
        expect(proof.map(hex)).toEqual(defined.map((one) => one.toString('hex')));
        const now = { size: entries.length, root: root() };
        expect(beginsAs({ size: first, root: root(first) }, now, proof)).toBe(true);
        const changed = entries.with(first - 1, Buffer.from('changed since'));
        const past = { size: first, root: treeOf(changed).root(first) };
        expect(beginsAs(past, now, proof)).toBe(false);
      })
    );
  });
});
