import { workApart } from '../work-apart.ts';
import type { LinesRead } from './lines-thread.ts';
import type { Line } from './read-lines.ts';
import { unreadableTable } from './unreadable-table.ts';

const ask = workApart<Uint8Array, LinesRead>({
  name: 'lines',
  source: new URL('./lines-thread.ts', import.meta.url),
  // Five megabytes of honest rows take a second and a tenth of the memory.
  mostMs: 30_000,
  mostHeapMb: 400,
  mostWaiting: 8,
  tooHeavy: () =>
    unreadableTable(
      'It takes more time or memory to read than a table of its size does. Save only what is wanted, as CSV.',
      413
    ),
  tooMany: {
    title: 'Other files are being read',
    message: 'Several files are being read just now. Wait a moment and send it again.'
  }
});

/**
 * The rows of a file, read in a thread with bounded time and memory, so that a file made to stop us
 * stops nobody but its own sender.
 * @throws Problem 413, 422 where it cannot be read, 503 where too many are being read
 */
export async function readLinesApart(file: Uint8Array): Promise<Line[]> {
  const said = await ask(file);
  if ('lines' in said) return said.lines;
  throw unreadableTable(said.refused.message, said.refused.status);
}
