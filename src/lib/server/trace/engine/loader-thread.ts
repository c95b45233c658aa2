// Reads the whole ledger, or the kept index of it, and packs it, beside everything else; ends when
// it is done.
import { parentPort, workerData } from 'node:worker_threads';
import { connect } from '../../kernel/db/client.ts';
import { readIndexFile, writeIndexFile } from './index-file.ts';
import { loadLedger, TooLarge, type LoadedLedger } from './load-ledger.ts';

export interface LoaderTask {
  url: string;
  /** Where the index is kept; null for nowhere. */ file: string | null;
  /** Whether a kept index will do. */ keptWillDo: boolean;
  limit: number;
}
export type LoaderReply =
  { loaded: LoadedLedger; from: 'file' | 'ledger' } | { failed: string; tooLarge: boolean };

const { url, file, keptWillDo, limit } = workerData as LoaderTask;
const answer = (reply: LoaderReply): void => {
  parentPort!.postMessage(reply);
};

try {
  const kept = file !== null && keptWillDo ? readIndexFile(file) : null;
  if (kept) answer({ loaded: kept, from: 'file' });
  else {
    const sql = connect(url, { max: 4, role: 'earmark_app' });
    try {
      const loaded = await loadLedger(sql, limit);
      answer({ loaded, from: 'ledger' });
      // Kept beside: a start without it only takes longer.
      if (file !== null)
        try {
          writeIndexFile(file, loaded);
        } catch (error) {
          console.error(`The index could not be kept in ${file}: ${(error as Error).message}`);
        }
    } finally {
      await sql.end({ timeout: 5 });
    }
  }
} catch (error) {
  answer({ failed: (error as Error).message, tooLarge: error instanceof TooLarge });
}
