import type { Worker } from 'node:worker_threads';
import { inTurns } from './in-turns.ts';
import { Problem } from './problem.ts';
import { startThread } from './start-thread.ts';

/** A thread that answers one question after the other, and what it may take. */
export interface Apart {
  /** The file it is built as, and its source. */
  name: string;
  source: URL;
  mostMs: number;
  mostHeapMb: number;
  /** Questions that may wait beside the one that is worked on. */
  mostWaiting: number;
  /** What is thrown where one takes more time or memory than it may. */
  tooHeavy: () => Problem;
  /** What is told where more wait. */
  tooMany: { title: string; message: string };
}

/**
 * Has work done in a thread of its own with bounded time and memory, so that what stops it stops
 * nobody but whoever asked. The thread is started at the first question, stays for the next, and is
 * ended where it takes too much.
 * @returns puts a question to it: throws what `tooHeavy` makes, or Problem 503 where too many wait
 */
export function workApart<Asked, Answer>(apart: Apart): (asked: Asked) => Promise<Answer> {
  let worker: Worker | null = null;
  const turn = inTurns(apart.mostWaiting, () => busy(apart.tooMany));

  function started(): Worker {
    if (worker) return worker;
    const limits = { maxOldGenerationSizeMb: apart.mostHeapMb };
    const fresh = startThread(apart.name, apart.source, null, limits);
    fresh.unref();
    const gone = (): void => {
      if (worker === fresh) worker = null;
    };
    // Also between two questions, where nobody else listens: unheard, it would end the server.
    fresh.on('error', (error) => {
      console.error(`${apart.name} failed: ${error.message}`);
      gone();
    });
    fresh.once('exit', gone);
    return (worker = fresh);
  }

  function ask(thread: Worker, asked: Asked): Promise<Answer> {
    return new Promise((done, refuse) => {
      const over = (): void => {
        clearTimeout(timer);
        thread.off('message', answered).off('error', failed).unref();
      };
      const answered = (answer: Answer): void => {
        over();
        done(answer);
      };
      const failed = (error: Error & { code?: string }): void => {
        over();
        worker = null;
        refuse(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? apart.tooHeavy() : error);
      };
      const timer = setTimeout(() => {
        over();
        worker = null;
        void thread.terminate();
        refuse(apart.tooHeavy());
      }, apart.mostMs);
      thread.on('message', answered).on('error', failed).ref();
      thread.postMessage(asked);
    });
  }

  return (asked) => turn(() => ask(started(), asked));
}

const busy = ({ title, message }: Apart['tooMany']): Problem =>
  new Problem(503, title, [{ code: 'server.busy', path: '', message }]);
