// `npm run verify`: the sealed ledger against what was sealed, or a proof file by itself:
// `npm run verify -- proof.json`. Exits 1 with what does not hold.
import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { checkEvent, isHeadSigned, openProof } from '../src/lib/core/seal/check-proof.ts';
import { headsFileOf, readKeptHeads } from '../src/lib/server/seal/daily-head.ts';
import { verifyLedger } from '../src/lib/server/seal/verify-ledger.ts';
import { onDatabase } from './on-database.ts';
import { saySealBreak } from './say-breaks.ts';
import { publicKeyIn, sealKeyFileOf } from './seal-key.ts';

const keyFile = sealKeyFileOf(resolve(process.env.EARMARK_DATA ?? '.data'));
const ourKey = publicKeyIn(keyFile);

function verifyProof(file: string): string[] {
  const proof = openProof(JSON.parse(readFileSync(file, 'utf8')));
  if (!proof) return ['This is no proof file of Earmark.'];
  const { of, head, events } = proof;
  console.log(`Proof of ${of}: ${events.length} of ${head.size} events sealed by ${head.at}.`);
  return [
    ...events
      .map(checkEvent)
      .filter(({ holds }) => !holds)
      .map(({ event }) => `Event ${event} is not in the ledger of this head as it stands here.`),
    isHeadSigned(head) ? '' : 'The head is not signed by its key.',
    ourKey === undefined || head.key === ourKey
      ? ''
      : 'The head is signed by another key than ours.'
  ].filter(Boolean);
}

async function verifyWhole(): Promise<string[]> {
  const url = process.env.DATABASE_URL ?? process.env.EARMARK_APP_URL;
  if (!url) return ['No database is running. Start Earmark with `npm start`, or set DATABASE_URL.'];
  const kept = await readKeptHeads(headsFileOf(keyFile));
  const { events, heads, breaks } = await onDatabase(url, (sql) => verifyLedger(sql, ourKey, kept));
  console.log(`Verified: ${events} events against ${heads} heads.`);
  return breaks.map(saySealBreak);
}

const file = process.argv[2];
const wrong = file ? verifyProof(file) : await verifyWhole();
for (const line of wrong) console.error(line);
if (wrong.length === 0) console.log('Everything holds.');
process.exitCode = wrong.length === 0 ? 0 : 1;
