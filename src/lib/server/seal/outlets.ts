import type { SignedHead } from '../../core/seal/proof.ts';
import type { Db } from '../kernel/db/client.ts';
import type { MailServer } from '../kernel/mail-server.ts';
import { readConsistency } from './read-seal.ts';
import type { Outlet } from './send-heads.ts';

/** How long a witness may take. */
const MOST_MS = 20_000;

/** Heads by mail: whoever keeps their mailbox keeps the past with it. */
export const byMail = ({ from, send }: MailServer, to: string): Outlet => ({
  name: `mail ${to}`,
  send: async (head) => {
    const subject = `Sealed ledger: ${head.size} events, ${head.at.slice(0, 10)}`;
    const text = [
      'Keep this mail. A ledger that is rewritten later does not come to what it says.',
      `Events: ${head.size}`,
      `Root: ${head.root}`,
      `Sealed: ${head.at}`,
      '',
      JSON.stringify(head),
      ''
    ].join('\n');
    await send({ from, to, subject, text });
  }
});

/**
 * Heads to a witness, with what shows that each goes on from the one before: a witness takes none
 * that does not.
 * @param url takes `{ head, before, consistency }` by POST, and answers 2xx where it keeps it
 */
export const byWitness = (db: Db, url: string): Outlet => ({
  name: `witness ${url}`,
  send: async (head: SignedHead, before) => {
    const consistency = before ? await readConsistency(db, before.size, head.size) : [];
    const response = await fetch(url, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ head, before, consistency }),
      signal: AbortSignal.timeout(MOST_MS)
    });
    if (!response.ok)
      throw new Error(`${response.status} ${(await response.text()).slice(0, 300)}`);
  }
});
