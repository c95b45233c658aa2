import { copied } from '../kernel/db/copied.ts';
import type { Tx } from '../kernel/db/client.ts';

const LINE_END = 10;
const NONE: Buffer = Buffer.alloc(0);

/** A row as COPY writes it in text: bytes from a place in a buffer to another. */
export interface Line {
  bytes: Buffer;
  start: number;
  end: number;
}

/**
 * Runs a query as a COPY in text and gives every row to `each`.
 * @param query takes no parameters: nothing a person typed belongs here
 * @param each is given the same object every time: what it keeps, it copies
 */
export async function copyLines(tx: Tx, query: string, each: (line: Line) => void): Promise<void> {
  let rest = NONE;
  const line: Line = { bytes: rest, start: 0, end: 0 };
  const take = (chunk: Buffer): void => {
    line.bytes = rest.length === 0 ? chunk : Buffer.concat([rest, chunk]);
    line.start = 0;
    for (;;) {
      line.end = line.bytes.indexOf(LINE_END, line.start);
      if (line.end < 0) break;
      each(line);
      line.start = line.end + 1;
    }
    // A row mostly comes by itself and whole.
    rest = line.start === line.bytes.length ? NONE : line.bytes.subarray(line.start);
  };
  await copied(tx, query, 'text', take);
}
