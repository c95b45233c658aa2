import { createHash } from 'node:crypto';
import { z } from 'zod';
import { leavesQuarantine, moveWants } from '../../../core/stock/decide-move.ts';
import { decideTransfer, type Transfer } from '../../../core/stock/decide-transfer.ts';
import type { Actor } from '../../kernel/actor.ts';
import { within, type Sql, type Tx } from '../../kernel/db/client.ts';
import { Problem } from '../../kernel/problem.ts';
import { requireRight } from '../../kernel/rights.ts';
import { answeredBefore } from '../../ledger/answered-before.ts';
import {
  book,
  type BookedAnswer,
  type BookingKind,
  type Circumstances
} from '../../ledger/book.ts';
import { correct } from '../kinds.ts';
import { askedMoves, toldWhereAsked } from './asked-lines.ts';
import type { Arrival, NewTransfer } from './schemas.ts';
import { openTransfer, refused } from './open-transfer.ts';
import { readTransferHead, type TransferHead } from './transfer-head.ts';

type Booked = { answer: string; fresh: boolean };

/**
 * Goods leave a site: they are ours, under way, and on hand nowhere. Sent under the same document
 * again, more of it leaves.
 * @throws Problem 403, 409 where the document is another transfer’s, 422 with all faults
 */
export async function dispatch(
  sql: Sql,
  actor: Actor,
  key: string,
  given: z.infer<typeof NewTransfer>
): Promise<Booked> {
  requireRight(actor, 'book.move');
  return within(sql, async (tx) => {
    const head = await openTransfer(tx, actor, given);
    await mustBeOpen(tx, head);
    const { from: _, to: __, lines, units = [], ...rest } = given;
    if (lines.length + units.length === 0)
      throw refused('quantity.mismatch', 'lines', 'Say what leaves: at least one line or carton.');
    const asked = askedMoves(lines, (line) => ({ from: line.place, to: head.way }));
    const request: Transfer & Circumstances = {
      ...rest,
      kind: 'transfer',
      leg: 'dispatch',
      site: head.fromName,
      way: head.way,
      lines: asked.moves,
      units: units.map((sscc) => ({ sscc, to: head.way }))
    };
    return toldWhereAsked(asked, () => book(tx, legOf(head), actor, key, request));
  });
}

/**
 * Goods arrive, in parts if need be. What did not is waited for, or written off with a reason.
 * @throws Problem 403, 404, 422 with all faults
 */
export async function arrive(
  sql: Sql,
  actor: Actor,
  key: string,
  document: string,
  given: z.infer<typeof Arrival>
): Promise<Booked> {
  requireRight(actor, 'book.move');
  if (given.short === 'lost' && !given.reason)
    throw refused('quantity.mismatch', 'reason', 'Say why what did not arrive is written off.');
  return within(sql, async (tx) => {
    const head = await readTransferHead(tx, document);
    const { lines, units = [], place, short, reason: _, ...rest } = given;
    const asked = askedMoves(lines, () => ({ from: head.way, to: place }));
    const request: Transfer & Circumstances = {
      ...rest,
      document: head.document,
      kind: 'transfer',
      leg: 'arrival',
      site: head.toName,
      way: head.way,
      lines: asked.moves,
      units: units.map((sscc) => ({ sscc, to: place }))
    };
    const arrived =
      request.lines.length + units.length > 0
        ? await toldWhereAsked(asked, () => book(tx, legOf(head), actor, key, request))
        : null;
    const lost =
      short === 'lost' ? await writeOff(tx, actor, head, lostKey(key), given.reason!) : null;
    const answer = arrived ?? lost;
    if (answer) return answer;
    throw refused('quantity.mismatch', 'lines', 'Say what arrived, or that the rest is lost.');
  });
}

/** What was ordered and closed is not sent, until somebody opens it again. */
async function mustBeOpen(tx: Tx, { id, document }: TransferHead): Promise<void> {
  const [closed] = await tx`
    SELECT FROM transfer_order WHERE transfer_id = ${id} AND closed_at IS NOT NULL
  `;
  if (!closed) return;
  const message = `${document} is closed. Open it again before more of it leaves.`;
  throw new Problem(409, 'The transfer is closed', [
    { code: 'order.closed', path: 'document', number: document, message }
  ]);
}

/** The key a write-off is kept under, beside that of the arrival it comes with. */
const lostKey = (key: string): string =>
  `lost ${createHash('sha256').update(key).digest('base64url')}`;

/** The booking of one leg, kept with its transfer. */
const legOf = ({ id }: TransferHead): BookingKind<Transfer & Circumstances> => ({
  path: 'transfers',
  summary: 'Goods leave on a transfer, or arrive',
  schema: z.custom<Transfer & Circumstances>(),
  rights: ['book.move'],
  right: 'book.move',
  eventKinds: ['transfer'],
  eventKind: () => 'transfer',
  rightsThen: (snapshot, request) =>
    leavesQuarantine(snapshot, request) ? ['decide.quality'] : [],
  wants: moveWants,
  decide: decideTransfer,
  after: (tx, event) => keepWith(tx, event, id)
});

const keepWith = async (tx: Tx, event: number, transfer: number): Promise<void> => {
  await tx`INSERT INTO transfer_event (event_id, transfer_id) VALUES (${event}, ${transfer})`;
};

/** What is still under way and will not come is lost, by its own event. */
async function writeOff(
  tx: Tx,
  actor: Actor,
  head: TransferHead,
  key: string,
  reason: string
): Promise<Booked | null> {
  requireRight(actor, 'book.correct');
  const rows = await tx<
    { product: string; kind: string; number: string | null; lot: string | null; quantity: string }[]
  >`
    SELECT p.code AS product, m.kind, m.number, l.number AS lot, s.quantity::text
    FROM place c
      JOIN stock s ON s.place_id = c.id AND s.quantity > 0
      JOIN mark m ON m.id = s.mark_id
      JOIN product p ON p.id = m.product_id
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE c.code = ${head.way}
    ORDER BY m.id
  `;
  if (rows.length === 0) return answeredBefore(tx, actor, key);
  const lines = rows.map(({ product, kind, number, lot, quantity }) => ({
    product,
    place: head.way,
    ...(kind === 'serial' ? { serial: number!, ...(lot ? { lot } : {}) } : { quantity }),
    ...(kind === 'lot' ? { lot: number! } : {})
  }));
  const request = { document: head.document, kind: 'loss' as const, reason, lines };
  const booked = await book(tx, correct, actor, key, request);
  const { event } = JSON.parse(booked.answer) as BookedAnswer;
  if (booked.fresh) await keepWith(tx, event.id, head.id);
  return booked;
}
