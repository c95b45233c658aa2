import { apart } from '../../kernel/paper/draw-apart.ts';
import { groupBy } from '../../../core/group-by.ts';
import { totalOf } from '../../../core/quantity/quantity.ts';
import { sayNetWeight } from '../../../core/quantity/say-net-weight.ts';
import { saySscc } from '../../../core/gs1/sscc.ts';
import { sayDay } from '../../../core/calendar/say-day.ts';
import { company } from '../../catalogue/company.ts';
import type { Db } from '../../kernel/db/client.ts';
import { INK, Paper, sayInstantAt, SOFT } from '../../kernel/paper/paper.ts';
import { writeAt } from '../../kernel/paper/pdf.ts';
import { trimZeros } from '../../kernel/quantity-text.ts';
import { proposeTransfer, type TransferProposal } from '../transfers/propose-transfer.ts';
import { readTransferOrder, type OrderedTransfer } from '../transfers/read-order.ts';
import { readTransferHead, type TransferHead } from '../transfers/transfer-head.ts';

interface Row {
  product: string;
  name: string;
  unit: string;
  number: string | null;
  lot: string | null;
  quantity: string;
  net: string | null;
  /** The carton it is in. */
  sscc: string | null;
}

/**
 * What goes with the lorry: all that left on a transfer and was not taken back, carton by carton,
 * with its weight where it is known. Before that, what is still to leave and where it lies.
 * @throws Problem 404
 */
export async function transferNotePdf(db: Db, document: string): Promise<Uint8Array> {
  const head = await readTransferHead(db, document);
  const [rows, own, left, order, proposal] = await Promise.all([
    readLeft(db, head),
    company(db),
    readLeaving(db, head),
    readTransferOrder(db, head),
    proposeTransfer(db, head)
  ]);
  return drawn({ head, rows, own: own.name, left, order, proposal });
}

interface TransferNote {
  head: TransferHead;
  rows: Row[];
  /** Our name. */
  own: string;
  left: { at: Date; zone: string } | null;
  order: OrderedTransfer | null;
  proposal: TransferProposal;
}

export async function drawTransferNote({
  head,
  rows,
  own,
  left,
  order,
  proposal
}: TransferNote): Promise<Uint8Array> {
  const paper = new Paper('Transfer note', head.document);
  paper.facts([
    ['from', `${own}, ${head.fromName}`],
    ['to', `${own}, ${head.toName}`],
    ...(left ? [['left', sayInstantAt(left.at, left.zone)] as const] : []),
    ['opened by', head.openedBy],
    ...(order?.due ? [['to have left by', sayDay(order.due)] as const] : []),
    ['net weight', sayNetWeight(rows)]
  ]);
  if (order) writeToLeave(paper, order, proposal);
  for (const [sscc, of] of groupBy(rows, (row) => row.sscc ?? '')) writeCarton(paper, sscc, of);
  paper.space(60);
  paper.y += 26;
  writeAt(paper.doc, 'received, all of it: ______________________________', paper.left, paper.y);
  return paper.end(`Transfer ${head.document}`);
}

/** What is still to leave, product by product, and where it may be taken. */
function writeToLeave(paper: Paper, order: OrderedTransfer, { rows }: TransferProposal): void {
  const open = order.closed ? [] : order.lines.filter((line) => line.left !== '0');
  if (open.length === 0) return;
  const takeOf = groupBy(rows, (row) => row.product);
  paper.heading('Still to leave');
  for (const { product, name, left, unit } of open) {
    writeProduct(paper, `${product}  ${name}`, `${left} ${unit}`);
    for (const row of takeOf.get(product) ?? [])
      writeMark(paper, { ...row, quantity: row.take }, row.fromName);
    paper.y += 4;
  }
}

function writeCarton(paper: Paper, sscc: string, rows: readonly Row[]): void {
  const { doc, left } = paper;
  paper.space(60);
  paper.rule(INK);
  if (sscc !== '') {
    writeAt(doc, saySscc(sscc), left, paper.y, { face: 'mono', points: 11 });
    paper.y += 17;
  }
  for (const [product, of] of groupBy(rows, (row) => row.product)) {
    const sum = `${totalOf(of.map((row) => row.quantity))} ${of[0]!.unit}`;
    writeProduct(paper, `${product}  ${of[0]!.name}`, sum);
    for (const row of of) writeMark(paper, row, row.lot ? `lot ${row.lot}` : '');
    paper.y += 4;
  }
}

function writeProduct(paper: Paper, name: string, sum: string): void {
  paper.space(34);
  paper.cell(name, 0, 120, { face: 'bold', points: 10 });
  paper.atRight(sum, { points: 10 });
  paper.y += 15;
}

/** @param says what stands beside its number: the lot it is within, or where it lies */
function writeMark(
  paper: Paper,
  { number, quantity }: Pick<Row, 'number' | 'quantity'>,
  says: string
): void {
  paper.space(14);
  paper.cell(number ?? 'no number', 4, 64, { face: 'mono', points: 9 });
  paper.cell(says, 70, 80, { points: 9, colour: SOFT });
  paper.atRight(quantity, { points: 9 });
  paper.y += 12;
}

/** What left, summed over all that was dispatched. */
async function readLeft(db: Db, head: TransferHead): Promise<Row[]> {
  const rows = await db<Row[]>`
    SELECT p.code AS product, p.name, p.unit, m.number, l.number AS lot,
      sum(v.quantity) AS quantity, p.net_weight_kg AS net,
      (
        SELECT u.sscc
        FROM unit_content c
          JOIN logistic_unit u ON u.id = c.unit_id
        WHERE c.mark_id = m.id AND c.quantity > 0 AND NOT c.shipped
        ORDER BY u.id
        LIMIT 1
      ) AS sscc
    FROM transfer_event x
      JOIN transfer t ON t.id = x.transfer_id
      JOIN movement v
        ON v.event_id = x.event_id AND v.place_id = t.place_id AND v.quantity > 0
      JOIN mark m ON m.id = v.mark_id
      JOIN product p ON p.id = m.product_id
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE t.id = ${head.id} AND NOT is_taken_back(v.event_id, m.id)
    GROUP BY m.id, p.id, l.id
    ORDER BY sscc NULLS LAST, p.code, l.number_key NULLS FIRST, m.number_key
  `;
  return rows.map((row) => ({ ...row, quantity: trimZeros(row.quantity) }));
}

async function readLeaving(db: Db, head: TransferHead): Promise<{ at: Date; zone: string } | null> {
  const [row] = await db<{ at: Date; zone: string }[]>`
    SELECT e.happened_at AS at, s.zone
    FROM transfer_event x
      JOIN event e ON e.id = x.event_id
      JOIN transfer t ON t.id = x.transfer_id
      JOIN site s ON s.id = t.from_site_id
    WHERE t.id = ${head.id}
    ORDER BY e.id
    LIMIT 1
  `;
  return row ?? null;
}

const drawn = apart('transfer-note', drawTransferNote);
