import { db } from '../kernel/db/client.ts';
import { mailServer } from '../kernel/mail-server.ts';
import { deliverMessages } from './deliver.ts';

const HALF_A_MINUTE = 30_000;

/**
 * Where a mail server is set, what is told to customers goes out by it, for as long as the server
 * runs; where none is the outbox keeps it.
 */
export function startMailing(): void {
  const mail = mailServer();
  if (!mail) return;
  let busy = false;
  const round = async (): Promise<void> => {
    if (busy) return;
    busy = true;
    try {
      await deliverMessages(db(), mail.from, mail.send);
    } catch (error) {
      console.error('Messages could not be sent; they are tried again.', error);
    } finally {
      busy = false;
    }
  };
  setInterval(() => void round(), HALF_A_MINUTE).unref();
  void round();
}
