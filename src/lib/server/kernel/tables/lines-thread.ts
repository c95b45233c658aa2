// Reads one file and ends. Whatever it takes of time and memory, it takes here.
import { parentPort, workerData } from 'node:worker_threads';
import { readLines, type Line } from './read-lines.ts';
import { Unreadable } from './unreadable.ts';

export type LinesRead = { lines: Line[] } | { refused: { status: 413 | 422; message: string } };

const send = (read: LinesRead): void => parentPort!.postMessage(read);
try {
  send({ lines: await readLines(workerData as Uint8Array) });
} catch (error) {
  if (!(error instanceof Unreadable)) throw error;
  send({ refused: { status: error.status, message: error.message } });
}
