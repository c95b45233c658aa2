import { db } from '../kernel/db/client.ts';
import { startRounds } from '../kernel/rounds.ts';
import { sendDueReminders } from './due-reminders.ts';

const HOUR = 3_600_000;

/**
 * Looks every hour whether a reminder is due, for as long as the server runs. One that fails is
 * tried again the next hour; it keeps nobody from anything else.
 */
export const startReminding = (): void =>
  startRounds({
    everyMs: HOUR,
    work: () =>
      sendDueReminders(db(), new Date(), (number, error) => {
        console.error(`Reminders of ${number} could not be sent.`, error);
      }),
    sorry: 'Reminders could not be sent; they are tried again in an hour.'
  });
