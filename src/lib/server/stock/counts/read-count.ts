import type { z } from 'zod';
import { formatQuantity } from '../../../core/quantity/quantity.ts';
import { offBy, type CountLine } from '../../../core/stock/count-line.ts';
import type { Db } from '../../kernel/db/client.ts';
import { isHidden, readCountHead } from './count-head.ts';
import { readCountLines } from './count-lines.ts';
import type { Count } from './schemas.ts';

/**
 * A count as the API tells it; what should lie there is left out while a blind count is open.
 * @throws Problem 404
 */
export async function readCount(db: Db, document: string): Promise<z.infer<typeof Count>> {
  const head = await readCountHead(db, document);
  const { rows, total } = await readCountLines(db, head);
  return {
    count: {
      document: head.document,
      state: head.state,
      blind: head.blind,
      event: head.event,
      places: head.places.map(({ code, doneAt }) => ({ place: code, done: doneAt !== null })),
      total,
      lines: rows.map((line) => asAnswer(line, !isHidden(head)))
    }
  };
}

const asAnswer = (line: CountLine, open: boolean) => ({
  product: line.product,
  place: line.place,
  ...(line.lot === null ? {} : { lot: line.lot }),
  ...(line.serial === null ? {} : { serial: line.serial }),
  ...(open ? { expected: line.expected } : {}),
  ...(line.counted === null ? {} : { counted: line.counted }),
  ...(open && line.counted !== null ? { difference: formatQuantity(offBy(line)) } : {})
});
