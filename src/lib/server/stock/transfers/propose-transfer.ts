import { proposeSending } from '../../../core/stock/propose-sending.ts';
import type { OrderedLine } from '../../../core/stock/decide-transfer-order.ts';
import type { Db } from '../../kernel/db/client.ts';
import { readDesk, type DeskRow } from '../desk/read-desk.ts';
import type { LyingRow } from '../lying.ts';
import { readTransferOrder } from './read-order.ts';
import type { TransferHead } from './transfer-head.ts';

/** What to take for what is still to leave, and what of it is not to be had at the site. */
export interface TransferProposal {
  rows: (LyingRow & { take: string })[];
  short: OrderedLine[];
}

/** Most rows of one product that are looked through: what one booking takes. */
const MOST_ROWS = 20_000;

/**
 * What to take at the site a transfer leaves: what is free there, soonest to expire first, and of
 * what expires together what came in first. What is in a carton leaves with its carton.
 */
export async function proposeTransfer(db: Db, head: TransferHead): Promise<TransferProposal> {
  const order = await readTransferOrder(db, head);
  const open = order && !order.closed ? order.lines.filter((line) => line.left !== '0') : [];
  const loose = await Promise.all(open.map(({ product }) => readLoose(db, head, product)));
  const wanted = new Map(open.map((line) => [line.product, line.left]));
  const { take, short } = proposeSending(loose.flat(), wanted);
  return { rows: take.map(({ row, quantity }) => ({ ...asLying(row), take: quantity })), short };
}

/** What is free of a product at the site and in no carton. */
async function readLoose(
  db: Db,
  head: TransferHead,
  product: string
): Promise<(DeskRow & { promised: string })[]> {
  const asked = { product, site: head.from, only: 'free', sort: 'expires' } as const;
  const { rows } = await readDesk(db, asked, MOST_ROWS);
  const packed = await readPacked(
    db,
    rows.map((row) => row.id)
  );
  return rows
    .filter((row) => !packed.has(row.id))
    .map((row) => ({ ...row, promised: row.promised ?? '0' }));
}

/** Which of these marks are in a carton, all or part of them. */
async function readPacked(db: Db, marks: readonly number[]): Promise<Set<number>> {
  const rows = await db<{ mark: number }[]>`
    SELECT DISTINCT mark_id AS mark
    FROM unit_content
    WHERE mark_id = ANY(${marks}) AND quantity > 0 AND NOT shipped
  `;
  return new Set(rows.map((row) => row.mark));
}

const asLying = (row: DeskRow): LyingRow => ({
  mark: row.id,
  kind: row.kind,
  number: row.number,
  lot: row.lot,
  product: row.product,
  name: row.name,
  unit: row.unit,
  state: row.state,
  expires: row.expires,
  from: row.place,
  fromName: `${row.site}, ${row.placeName}`,
  quantity: row.quantity
});
