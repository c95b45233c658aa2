import { createHash, generateKeyPairSync, sign } from 'node:crypto';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { checkEvent, isHeadSigned, openProof } from './check-proof.ts';
import { headText } from './head.ts';
import type { ProofOfMany, SignedHead } from './proof.ts';
import { append, hashOf, inclusionProof, leafHash, type NodeAt } from './tree.ts';

// Proof files made by Node.js' own hashes and signatures, checked by what runs in a browser.
const keys = generateKeyPairSync('ed25519');
const publicKey = keys.publicKey.export({ type: 'spki', format: 'der' }).subarray(-32);
const hex = (bytes: Uint8Array): string => Buffer.from(bytes).toString('hex');
const entryOf = (id: number): string =>
  JSON.stringify({ id, kind: 'ship', document: `D-${id}é`, happened_at: '2026-01-01T00:00:00Z' });

function signed(size: number, root: string): SignedHead {
  const head = { size, root, at: '2026-01-02T00:00:00.000Z' };
  const signature = sign(null, Buffer.from(headText(head)), keys.privateKey);
  const [key, given] = [publicKey, signature].map((bytes) => Buffer.from(bytes).toString('base64'));
  return { ...head, key: key!, signature: given! };
}
/** A proof of all events of a ledger of so many. */
function proofOf(size: number): ProofOfMany {
  const nodes = append(
    0,
    () => new Uint8Array(32),
    Array.from({ length: size }, (_, at) => leafHash(Buffer.from(entryOf(at + 1))))
  );
  const known = new Map(nodes.map((one) => [`${one.level} ${one.index}`, one.hash]));
  const nodeAt: NodeAt = (level, index) => known.get(`${level} ${index}`)!;
  const hashes: string[] = [];
  const events = Array.from({ length: size }, (_, position) => ({
    ...{ event: position + 1, entry: entryOf(position + 1), position },
    path: inclusionProof(position, size, nodeAt).map((hash) => hashes.push(hex(hash)) - 1)
  }));
  return { of: 'all', head: signed(size, hex(hashOf(0, size, nodeAt))), events, hashes };
}
const holding = (file: object): boolean[] =>
  openProof(file)!.events.map((one) => checkEvent(one).holds);

test('every event of a ledger of any size holds, and its head is signed', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 70 }), (size) => {
      const proof = proofOf(size);
      expect(holding(proof).every(Boolean)).toBe(true);
      expect(isHeadSigned(proof.head)).toBe(true);
    }),
    { numRuns: 40 }
  );
});

test('one letter of one event is found, and only that event', () => {
  fc.assert(
    fc.property(fc.integer({ min: 2, max: 40 }), fc.nat(), fc.nat(), (size, which, where) => {
      const proof = proofOf(size);
      const at = which % size;
      const { entry } = proof.events[at]!;
      const cut = where % entry.length;
      proof.events[at]!.entry = `${entry.slice(0, cut)}\u2063${entry.slice(cut)}`;
      expect(holding(proof)).toEqual(proof.events.map((_, one) => one !== at));
    }),
    { numRuns: 60 }
  );
});

test('an event under another’s number, at another place or with other hashes does not hold', () => {
  const proof = proofOf(9);
  const [first, second] = [proof.events[0]!, proof.events[1]!];
  expect(holding({ ...proof, events: [{ ...first, event: 2 }] })).toEqual([false]);
  expect(holding({ ...proof, events: [{ ...first, position: 1 }] })).toEqual([false]);
  expect(holding({ ...proof, events: [{ ...first, path: second.path }] })).toEqual([false]);
  expect(holding({ ...proof, events: [{ ...first, path: [999] }] })).toEqual([false]);
});

test('a head that says something else than was signed is not signed', () => {
  const { head } = proofOf(3);
  for (const more of [{ size: 4 }, { at: '2025-01-01T00:00:00.000Z' }, { key: 'AAAA' }])
    expect(isHeadSigned({ ...head, ...more })).toBe(false);
  expect(isHeadSigned({ ...head, signature: '???' })).toBe(false);
});

test('the core hashes an entry as Node.js does', () => {
  const entry = entryOf(7);
  const expected = createHash('sha256').update(Buffer.of(0)).update(entry).digest('hex');
  expect(hex(leafHash(Buffer.from(entry)))).toBe(expected);
});

test('what is no proof file is not taken for one', () => {
  const { head } = proofOf(2);
  for (const file of [
    null,
    3,
    [],
    {},
    { head },
    { head, events: [{}], hashes: [] },
    { events: [] }
  ])
    expect(openProof(file)).toBeNull();
});
