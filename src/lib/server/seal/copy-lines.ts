import { copied } from '../kernel/db/copied.ts';
import type { Tx } from '../kernel/db/client.ts';

/** A row as COPY writes it in text: bytes from a place in a buffer to another. */
export interface Line {
  bytes: Buffer;
  start: number;
  end: number;
}

/**
 * Runs a query as a COPY in text and gives every row to `each`. PostgreSQL sends each row by itself
 * and whole (its manual, 55.2.7, "always one per row"), with a line's end behind it.
 * @param query takes no parameters: nothing a person typed belongs here
 * @param each is given the same object every time: what it keeps, it copies
 */
export async function copyLines(tx: Tx, query: string, each: (line: Line) => void): Promise<void> {
  const line: Line = { bytes: Buffer.alloc(0), start: 0, end: 0 };
  await copied(tx, query, 'text', (row) => {
    line.bytes = row;
    line.end = row.length - 1;
    each(line);
  });
}
