import { db } from '../kernel/db/client.ts';
import { startRounds } from '../kernel/rounds.ts';
import { gatherMessages } from './gather.ts';
import { sendDue } from './send.ts';

const THREE_SECONDS = 3_000;

/** Tells hooks what is booked, for as long as the server runs. */
export const startTelling = (): void =>
  startRounds({
    everyMs: THREE_SECONDS,
    work: tellAll,
    sorry: 'Hooks could not be told; it is tried again.'
  });

async function tellAll(): Promise<void> {
  while ((await gatherMessages(db())) > 0);
  while ((await sendDue(db())) > 0);
}
