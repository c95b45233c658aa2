import type { z } from 'zod';
import { lineOfPath } from '../../core/faults/line-of-path.ts';
import type { Actor } from '../kernel/actor.ts';
import { within, type Sql, type Tx } from '../kernel/db/client.ts';
import { Problem } from '../kernel/problem.ts';
import { requireRight } from '../kernel/rights.ts';
import { toldAt } from '../kernel/told-at.ts';
import { book, type BookedAnswer } from '../ledger/book.ts';
import { goodsReturn, ship } from './kinds.ts';
import type { Exchange } from './schemas.ts';

/** What came back and what went out in its place, each by its own booking. */
export interface Exchanged {
  returned: BookedAnswer;
  shipped: BookedAnswer;
}

/**
 * Takes shipped units back and sends others in their place to the same customer, in one act: both
 * are booked, or neither.
 * @param key idempotency key: sent again, it answers the same
 * @throws Problem 403 without the rights to both, 409, 422 with all faults of whichever is refused
 */
export async function exchange(
  sql: Sql,
  actor: Actor,
  key: string,
  given: z.infer<typeof Exchange>
): Promise<{ exchanged: Exchanged; fresh: boolean }> {
  requireRight(actor, 'book.return');
  requireRight(actor, 'book.ship');
  const { customer, place, reason, lines, ...circumstances } = given;
  return within(sql, async (tx) => {
    const back = await book(tx, goodsReturn, actor, `exchange back ${key}`, {
      ...circumstances,
      ...(customer === undefined ? {} : { customer }),
      ...(reason === undefined ? {} : { reason }),
      place,
      lines: lines.map(({ replacement: _, ...line }) => line)
    });
    const returned = JSON.parse(back.answer) as BookedAnswer;
    const out = await toldAtReplacement(lines, async () =>
      book(tx, ship, actor, `exchange out ${key}`, {
        ...circumstances,
        customer: await customerOf(tx, returned.event.id),
        ...(reason === undefined ? {} : { reason }),
        lines: replacementsOf(lines)
      })
    );
    const shipped = JSON.parse(out.answer) as BookedAnswer;
    return { exchanged: { returned, shipped }, fresh: back.fresh };
  });
}

type Lines = z.infer<typeof Exchange>['lines'];

/** A line for each, so that a fault’s path says whose replacement it means. */
const replacementsOf = (lines: Lines) =>
  lines.flatMap(({ product, replacement }) =>
    replacement
      ? [{ product: replacement.product ?? product, marks: [{ serial: replacement.serial }] }]
      : []
  );

/** Whoever had them: the return found its customer, or was told. */
async function customerOf(tx: Tx, event: number): Promise<string> {
  const [row] = await tx<{ code: string }[]>`
    SELECT t.code
    FROM event e
      JOIN partner t ON t.id = e.partner_id
    WHERE e.id = ${event}
  `;
  if (row) return row.code;
  const message = 'Nobody knows who had these. Say who the others go to.';
  const unknown = { code: 'partner.unknown', path: 'customer', message };
  throw new Problem(422, CANNOT.title, [unknown], CANNOT.detail);
}

const CANNOT = { title: 'The exchange cannot be booked', detail: 'Nothing was changed.' };

/** What is wrong with what goes out, told where it was asked for. */
function toldAtReplacement<T>(lines: Lines, work: () => Promise<T>): Promise<T> {
  const asked = lines.flatMap((line, at) => (line.replacement ? [at] : []));
  const pathIn = (path: string): string => {
    const at = lineOfPath(path);
    return at === null ? path : `lines[${asked[at]}].replacement`;
  };
  return toldAt(work, pathIn, CANNOT);
}
