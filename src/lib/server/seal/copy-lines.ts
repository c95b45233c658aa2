import { copied } from '../kernel/db/copied.ts';
import type { Tx } from '../kernel/db/client.ts';

const LINE_END = 10;

/**
 * Runs a query as a COPY in text and gives every row's fields, as they are written, to `each`.
 * @param query takes no parameters: nothing a person typed belongs here
 */
export async function copyLines(
  tx: Tx,
  query: string,
  each: (fields: string[]) => void
): Promise<void> {
  const stream = await copied(tx, query, 'text');
  let rest: Buffer = Buffer.alloc(0);
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    const bytes = rest.length === 0 ? chunk : Buffer.concat([rest, chunk]);
    const end = bytes.lastIndexOf(LINE_END) + 1;
    for (const line of bytes.toString('utf8', 0, end).split('\n')) {
      if (line !== '') each(line.split('\t'));
    }
    rest = bytes.subarray(end);
  }
}
