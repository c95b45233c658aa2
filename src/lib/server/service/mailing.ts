import { db } from '../kernel/db/client.ts';
import { mailServer } from '../kernel/mail-server.ts';
import { startRounds } from '../kernel/rounds.ts';
import { deliverMessages } from './deliver.ts';

const HALF_A_MINUTE = 30_000;

/**
 * Where a mail server is set, what is told to customers goes out by it, for as long as the server
 * runs; where none is the outbox keeps it.
 */
export function startMailing(): void {
  const mail = mailServer();
  if (!mail) return;
  startRounds({
    everyMs: HALF_A_MINUTE,
    work: () => deliverMessages(db(), mail.from, mail.send),
    sorry: 'Messages could not be sent; they are tried again.'
  });
}
