import { getDefaultHighWaterMark, setDefaultHighWaterMark, type Readable } from 'node:stream';
import type { Tx } from './client.ts';

/**
 * What a query answers as COPY writes it: ten times as fast as rows made into objects.
 * @param query takes no parameters: nothing a person typed belongs here
 */
export const copied = (tx: Tx, query: string, format: 'binary' | 'text'): Promise<Readable> =>
  unpaused(
    () =>
      tx.unsafe(`COPY (${query}) TO STDOUT WITH (FORMAT ${format})`).readable() as Promise<Readable>
  );

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
