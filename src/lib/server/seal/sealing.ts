import { db } from '../kernel/db/client.ts';
import { headsFileOf, keepDailyHead } from './daily-head.ts';
import { readHead } from './read-seal.ts';
import { sealLedger } from './seal.ts';
import { sealKey } from './seal-key.ts';

const TEN_SECONDS = 10_000;
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
  if (head) await keepDailyHead(headsFileOf(process.env.EARMARK_SEAL_KEY!), head);
}

/** Seals every ten seconds, for as long as the server runs. */
export function startSealing(): void {
  if (!process.env.EARMARK_SEAL_KEY) {
    console.error('EARMARK_SEAL_KEY is not set: the ledger is not sealed.');
    return;
  }
  setInterval(() => void sealNow(), TEN_SECONDS).unref();
}
