// Checks a proof file of Earmark with nothing but Node.js: node verify-proof.mjs proof.json [key in base64]
// RFC 9162 (hashes and path), RFC 8032 (Ed25519). Prints what the events are, or what does not hold.
import { createHash, createPublicKey, verify } from 'node:crypto';
import { readFileSync } from 'node:fs';

const file = JSON.parse(readFileSync(process.argv[2], 'utf8'));
const { head, hashes = [], events = [file] } = file;
const sha = (...parts) => createHash('sha256').update(Buffer.concat(parts)).digest();

function isIn({ entry, position, path }) {
  let hash = sha(Buffer.of(0), Buffer.from(entry));
  let [at, last] = [position, head.size - 1];
  for (const beside of path.map((one) => Buffer.from(hashes[one] ?? one, 'hex'))) {
    if (at % 2 === 1 || at === last) {
      hash = sha(Buffer.of(1), beside, hash);
      for (; at % 2 === 0 && at > 0; last = Math.floor(last / 2)) at /= 2;
    } else hash = sha(Buffer.of(1), hash, beside);
    [at, last] = [Math.floor(at / 2), Math.floor(last / 2)];
  }
  return last === 0 && hash.toString('hex') === head.root;
}

const der = Buffer.concat([
  Buffer.from('302a300506032b6570032100', 'hex'),
  Buffer.from(head.key, 'base64')
]);
const key = createPublicKey({ key: der, format: 'der', type: 'spki' });
const text = Buffer.from(`Earmark sealed ledger\n${head.size}\n${head.root}\n${head.at}\n`);
const wrong = events.filter((one) => !isIn(one)).map((one) => `Event ${one.event} does not hold.`);
if (!verify(null, text, key, Buffer.from(head.signature, 'base64'))) wrong.push('Not signed.');
if ((process.argv[3] ?? head.key) !== head.key) wrong.push('Signed by another key than was given.');
for (const { entry } of events) console.log(entry);
console.log(wrong.join('\n') || `Holds: ${events.length} of ${head.size}, sealed by ${head.at}.`);
process.exitCode = wrong.length > 0 ? 1 : 0;
