// `npm run witness -- heads.jsonl 4180`: a witness that stands in for one elsewhere. It keeps each
// head it is sent, a line each, and takes none that does not go on from the last; EARMARK_SEAL_WITNESS
// names it to Earmark. Run it on another machine than Earmark's.
import { appendFileSync, existsSync, readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { SignedHead } from '../src/lib/core/seal/proof.ts';
import { whyRefused, type Testimony } from '../src/lib/core/seal/witness.ts';

const [file = 'witness.jsonl', port = '4180', host = '127.0.0.1'] = process.argv.slice(2);
const MOST_BYTES = 100_000;

function lastKept(): SignedHead | null {
  const lines = existsSync(file) ? readFileSync(file, 'utf8').split('\n').filter(Boolean) : [];
  return lines.length > 0 ? (JSON.parse(lines.at(-1)!) as SignedHead) : null;
}

/** @returns why it is not taken; null where it was */
function take(text: string): string | null {
  const testimony = JSON.parse(text) as Testimony;
  const last = lastKept();
  // Sent again, as its answer was lost: it is here already.
  if (last?.root === testimony.head.root && last.size === testimony.head.size) return null;
  const why = whyRefused(last, testimony);
  if (why === null) appendFileSync(file, `${JSON.stringify(testimony.head)}\n`);
  return why;
}

const server = createServer((request, response) => {
  const say = (status: number, text: string) =>
    response.writeHead(status, { 'content-type': 'text/plain' }).end(`${text}\n`);
  let text = '';
  request.on('data', (part: Buffer) => {
    text += part.toString();
    if (text.length > MOST_BYTES) request.destroy();
  });
  request.on('end', () => {
    if (request.method !== 'POST') return say(200, JSON.stringify(lastKept()));
    try {
      const why = take(text);
      return why === null ? say(200, 'Kept.') : say(409, why);
    } catch {
      return say(400, 'That is no head.');
    }
  });
});
server.listen(Number(port), host, () => {
  const { port: taken } = server.address() as { port: number };
  console.log(`Witness on http://${host}:${taken}/, keeping ${file}.`);
});
