import type { z } from 'zod';
import { formatQuantity, quantity } from '../../../core/quantity/quantity.ts';
import type { Db } from '../../kernel/db/client.ts';
import { readCountHead, type CountHead } from './count-head.ts';
import type { CountLine } from '../../../core/stock/count-line.ts';
import { readCountLines } from './count-lines.ts';
import type { Count } from './schemas.ts';

/**
 * A count as the API tells it; what should lie there is left out while a blind count is open.
 * @throws Problem 404
 */
export async function readCount(db: Db, document: string): Promise<z.infer<typeof Count>> {
  const head = await readCountHead(db, document);
  const lines = await readCountLines(db, head);
  const shown = shownLines(head, lines);
  return {
    count: {
      document: head.document,
      state: head.state,
      blind: head.blind,
      event: head.event,
      places: head.places.map(({ code, doneAt }) => ({ place: code, done: doneAt !== null })),
      lines: shown.map((line) => asAnswer(line, !isHidden(head)))
    }
  };
}

/** Whether the figures of the ledger are kept from who counts. */
export const isHidden = ({ blind, state }: CountHead): boolean => blind && state === 'open';

/**
 * The lines of a count as they are shown to who counts: of a blind one without the serials nobody
 * named, as a list of what should be there is an expected figure too.
 */
export const shownLines = (head: CountHead, lines: readonly CountLine[]): CountLine[] =>
  isHidden(head)
    ? lines.filter((line) => line.counted !== null || line.kind !== 'serial')
    : [...lines];

const asAnswer = (line: CountLine, open: boolean) => ({
  product: line.product,
  place: line.place,
  ...(line.lot === null ? {} : { lot: line.lot }),
  ...(line.serial === null ? {} : { serial: line.serial }),
  ...(open ? { expected: line.expected } : {}),
  ...(line.counted === null ? {} : { counted: line.counted }),
  ...(open && line.counted !== null ? { difference: differenceOf(line) } : {})
});

/** By how much a line was off when it was counted. */
export const differenceOf = ({ counted, seen }: Pick<CountLine, 'counted' | 'seen'>): string =>
  formatQuantity(quantity(counted ?? '0').minus(seen ?? '0'));
