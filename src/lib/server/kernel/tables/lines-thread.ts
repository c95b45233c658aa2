// Reads files, one after the other. Whatever one takes of time and memory, it takes here.
import { parentPort } from 'node:worker_threads';
import { readLines, type Line } from './read-lines.ts';
import { Unreadable } from './unreadable.ts';

export type LinesRead = { lines: Line[] } | { refused: { status: 413 | 422; message: string } };

async function read(file: Uint8Array): Promise<LinesRead> {
  try {
    return { lines: await readLines(file) };
  } catch (error) {
    if (!(error instanceof Unreadable)) throw error;
    return { refused: { status: error.status, message: error.message } };
  }
}

parentPort!.on('message', async (file: Uint8Array) => parentPort!.postMessage(await read(file)));
