import { getDefaultHighWaterMark, setDefaultHighWaterMark, type Readable } from 'node:stream';
import type { Tx } from './client.ts';

/**
 * Gives what a query answers to `take` as COPY writes it, piece by piece: ten times as fast as rows
 * made into objects.
 * @param query takes no parameters: nothing a person typed belongs here
 * @throws what `take` throws
 */
export async function copied(
  tx: Tx,
  query: string,
  format: 'binary' | 'text',
  take: (piece: Buffer) => void
): Promise<void> {
  const stream = await unpaused(
    () =>
      tx.unsafe(`COPY (${query}) TO STDOUT WITH (FORMAT ${format})`).readable() as Promise<Readable>
  );
  await new Promise<void>((done, fail) => {
    stream.on('data', (piece: Buffer) => {
      try {
        take(piece);
      } catch (error) {
        stream.destroy(error as Error);
      }
    });
    stream.on('end', done);
    stream.on('error', fail);
  });
}

/**
 * Postgres.js pauses its socket where a stream is full, and never wakes it where that was the last
 * of the stream: what follows on the connection hangs. A stream made with room for everything is
 * never full; its rows are taken as they come, so it never fills either.
 */
async function unpaused(open: () => Promise<Readable>): Promise<Readable> {
  const usual = getDefaultHighWaterMark(false);
  setDefaultHighWaterMark(false, 2 ** 30);
  try {
    return await open();
  } finally {
    setDefaultHighWaterMark(false, usual);
  }
}
