import { db } from '../kernel/db/client.ts';
import { mailServer } from '../kernel/mail-server.ts';
import { startRounds } from '../kernel/rounds.ts';
import { headsFileOf, keepDailyHead, readKeptHeads } from './daily-head.ts';
import { byMail, byWitness } from './outlets.ts';
import { sendHeads, type Outlet } from './send-heads.ts';
import { readHead } from './read-seal.ts';
import { sealLedger } from './seal.ts';
import { sealKey } from './seal-key.ts';

const TEN_SECONDS = 10_000;
const FIVE_MINUTES = 300_000;
let running: Promise<unknown> | null = null;
let isFirst = true;

/**
 * Seals what was committed until now; where that is under way already, it is waited for. What it
 * cannot seal is sealed the next time: a booking never waits for it.
 */
export async function sealNow(): Promise<void> {
  running ??= sealAndKeep()
    .catch((error: unknown) => {
      console.error('The ledger could not be sealed; it is tried again.', error);
    })
    .finally(() => {
      running = null;
    });
  await running;
}

async function sealAndKeep(): Promise<void> {
  const sealed = await sealLedger(db(), sealKey(), { whole: isFirst });
  const isNew = isFirst || sealed > 0;
  isFirst = false;
  const head = isNew ? await readHead(db()) : null;
  if (head) await keepDailyHead(headsFile(), head);
}

const headsFile = (): string => headsFileOf(process.env.EARMARK_SEAL_KEY!);

/** Where heads are sent, by the settings. */
function outlets(): Outlet[] {
  const { EARMARK_SEAL_MAIL: to, EARMARK_SEAL_WITNESS: witness } = process.env;
  const mail = to ? mailServer() : null;
  return [...(mail ? [byMail(mail, to!)] : []), ...(witness ? [byWitness(db(), witness)] : [])];
}

/** Sends the heads of days that were kept to whoever holds us to them. */
async function sendKept(to: readonly Outlet[]): Promise<void> {
  const file = headsFile();
  const failed = await sendHeads(`${file}.sent`, await readKeptHeads(file), to);
  for (const one of failed) console.error(`A head could not be sent and is sent again: ${one}`);
}

/** Seals every ten seconds, for as long as the server runs. */
export function startSealing(): void {
  if (!process.env.EARMARK_SEAL_KEY) {
    console.error('EARMARK_SEAL_KEY is not set: the ledger is not sealed.');
    return;
  }
  setInterval(() => void sealNow(), TEN_SECONDS).unref();
  const to = outlets();
  if (to.length === 0) return;
  startRounds({
    everyMs: FIVE_MINUTES,
    work: async () => {
      await sealNow();
      await sendKept(to);
    },
    sorry: 'The kept heads could not be sent; they are tried again.'
  });
}
