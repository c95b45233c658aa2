// Checks a proof file of Earmark with nothing but Node.js: node verify-proof.mjs proof.json [key in base64]
// RFC 9162 (hashes and path), RFC 8032 (Ed25519). Prints what the event is, or why it does not hold.
import { createHash, createPublicKey, verify } from 'node:crypto';
import { readFileSync } from 'node:fs';

const { entry, position, path, head } = JSON.parse(readFileSync(process.argv[2], 'utf8'));
const sha = (...parts) => createHash('sha256').update(Buffer.concat(parts)).digest();
let hash = sha(Buffer.of(0), Buffer.from(entry));
let [at, last] = [position, head.size - 1];
for (const beside of path.map((hex) => Buffer.from(hex, 'hex'))) {
  if (at % 2 === 1 || at === last) {
    hash = sha(Buffer.of(1), beside, hash);
    for (; at % 2 === 0 && at > 0; last = Math.floor(last / 2)) at /= 2;
  } else hash = sha(Buffer.of(1), hash, beside);
  [at, last] = [Math.floor(at / 2), Math.floor(last / 2)];
}
const der = Buffer.from('302a300506032b6570032100', 'hex');
const format = { format: 'der', type: 'spki' };
const key = createPublicKey({
  key: Buffer.concat([der, Buffer.from(head.key, 'base64')]),
  ...format
});
const text = `Earmark sealed ledger\n${head.size}\n${head.root}\n${head.at}\n`;
const wrong = [
  hash.toString('hex') === head.root && last === 0
    ? ''
    : 'The event is not in the ledger of this head.',
  verify(null, Buffer.from(text), key, Buffer.from(head.signature, 'base64'))
    ? ''
    : 'The head is not signed by its key.',
  (process.argv[3] ?? head.key) === head.key
    ? ''
    : 'The head is signed by another key than was given.'
].filter(Boolean);
console.log(
  wrong.join(' ') ||
    `Holds: of ${head.size} events sealed by ${head.at}, number ${position}: ${entry}`
);
process.exitCode = wrong.length > 0 ? 1 : 0;
