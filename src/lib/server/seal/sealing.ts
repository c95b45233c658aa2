import { dirname, join } from 'node:path';
import { db } from '../kernel/db/client.ts';
import { keepDailyHead } from './daily-head.ts';
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
  await sealLedger(db(), sealKey(), { whole: isFirst });
  isFirst = false;
  const head = await readHead(db());
  if (head) await keepDailyHead(headsFile(), head);
}

/** Beside the key, out of the database's reach; from there it is taken to where it cannot be changed. */
const headsFile = (): string => join(dirname(process.env.EARMARK_SEAL_KEY!), 'seal-heads.jsonl');

/** Seals every ten seconds, for as long as the server runs. */
export function startSealing(): void {
  if (!process.env.EARMARK_SEAL_KEY) {
    console.error('EARMARK_SEAL_KEY is not set: the ledger is not sealed.');
    return;
  }
  setInterval(() => void sealNow(), TEN_SECONDS).unref();
}
