import { inTurns } from '../in-turns.ts';
import { Problem } from '../problem.ts';
import { startThread } from '../start-thread.ts';
import type { LinesRead } from './lines-thread.ts';
import type { Line } from './read-lines.ts';

const THREAD = new URL('./lines-thread.ts', import.meta.url);
/** What one file may take. Five megabytes of honest rows take a second and a tenth of the memory. */
const MOST_MS = 30_000;
const MOST_HEAP_MB = 400;
/** Files that wait while one is read. */
const MOST_WAITING = 8;

const turn = inTurns(MOST_WAITING, () => tooMany());

/**
 * The rows of a file, read in a thread with bounded time and memory, so that a file made to stop us
 * stops nobody but its own sender.
 * @throws Problem 413, 422 where it cannot be read, 503 where too many are being read
 */
export const readLinesApart = (file: Uint8Array): Promise<Line[]> => turn(() => readOne(file));

function readOne(file: Uint8Array): Promise<Line[]> {
  const worker = startThread('lines', THREAD, file, { maxOldGenerationSizeMb: MOST_HEAP_MB });
  return new Promise((read, refuse) => {
    const end = (): void => {
      clearTimeout(timer);
      void worker.terminate();
    };
    const timer = setTimeout(() => {
      end();
      refuse(tooHeavy());
    }, MOST_MS);
    worker.on('message', (said: LinesRead) => {
      end();
      if ('lines' in said) read(said.lines);
      else refuse(unreadable(said.refused.status, said.refused.message));
    });
    worker.on('error', (error: Error & { code?: string }) => {
      end();
      refuse(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? tooHeavy() : error);
    });
  });
}

const unreadable = (status: number, message: string): Problem =>
  new Problem(status, status === 413 ? 'The file is too large' : 'The table cannot be read', [
    { code: status === 413 ? 'request.too-large' : 'request.malformed', path: '', message }
  ]);

const tooHeavy = (): Problem =>
  unreadable(
    413,
    'It takes more time or memory to read than a table of its size does. Save only what is wanted, as CSV.'
  );

const tooMany = (): Problem =>
  new Problem(503, 'Other files are being read', [
    {
      code: 'server.busy',
      path: '',
      message: 'Several files are being read just now. Wait a moment and send it again.'
    }
  ]);
