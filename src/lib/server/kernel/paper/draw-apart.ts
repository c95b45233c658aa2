import type { Worker } from 'node:worker_threads';
import { inTurns } from '../in-turns.ts';
import { Problem } from '../problem.ts';
import { startThread } from '../start-thread.ts';

const THREAD = new URL('../../papers-thread.ts', import.meta.url);
/** What one paper may take: of twenty thousand rows it is a quarter of that. */
const MOST_MS = 120_000;
const MOST_HEAP_MB = 600;
/** Papers that wait while one is drawn. */
const MOST_WAITING = 30;

/** What the thread is asked, and what it answers. */
export interface PaperAsked {
  name: string;
  args: unknown[];
}
export type PaperDrawn = { bytes: Uint8Array } | { failed: string };

let worker: Worker | null = null;
const turn = inTurns(MOST_WAITING, () =>
  busy('Many papers are being made just now. Wait a moment and ask for it again.')
);

/**
 * A paper that is drawn in a thread of its own, one after the other, so that one of thousands of rows
 * holds nobody up but whoever asked for it.
 * @param name as server/papers-thread.ts lists it
 * @param _draw what draws it there; here it only says what goes in
 * @returns draws it apart; throws Problem 413 where it takes too much, 503 where too many wait
 */
export const apart =
  <Args extends unknown[]>(name: string, _draw: (...args: Args) => Promise<Uint8Array>) =>
  (...args: Args): Promise<Uint8Array> =>
    turn(() => drawIn(started(), { name, args }));

function started(): Worker {
  if (worker) return worker;
  const fresh = startThread('papers', THREAD, null, { maxOldGenerationSizeMb: MOST_HEAP_MB });
  fresh.unref();
  fresh.once('exit', () => {
    if (worker === fresh) worker = null;
  });
  return (worker = fresh);
}

function drawIn(thread: Worker, asked: PaperAsked): Promise<Uint8Array> {
  return new Promise((drawn, refuse) => {
    const over = (): void => {
      clearTimeout(timer);
      thread.off('message', answered).off('error', failed).unref();
    };
    const answered = (said: PaperDrawn): void => {
      over();
      if ('bytes' in said) drawn(said.bytes);
      else refuse(new Error(`Paper ${asked.name}: ${said.failed}`));
    };
    const failed = (error: Error & { code?: string }): void => {
      over();
      worker = null;
      refuse(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? tooLarge() : error);
    };
    const timer = setTimeout(() => {
      over();
      worker = null;
      void thread.terminate();
      refuse(tooLarge());
    }, MOST_MS);
    thread.on('message', answered).on('error', failed).ref();
    thread.postMessage(asked);
  });
}

const tooLarge = (): Problem =>
  new Problem(413, 'The paper is too large', [
    {
      code: 'request.too-large',
      path: '',
      message: 'It takes more time or memory than a paper may. Ask for less of it, or for a file.'
    }
  ]);

const busy = (message: string): Problem =>
  new Problem(503, 'Others come first', [{ code: 'server.busy', path: '', message }]);
