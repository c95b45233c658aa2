import { groupBy } from '../../../core/group-by.ts';
import { totalOf } from '../../../core/quantity/quantity.ts';
import { sayNetWeight } from '../../../core/quantity/say-net-weight.ts';
import { saySscc } from '../../../core/gs1/sscc.ts';
import { company } from '../../catalogue/company.ts';
import type { Db } from '../../kernel/db/client.ts';
import { INK, Paper, sayInstantAt, SOFT } from '../../kernel/paper/paper.ts';
import { fitted, mm, writeAt } from '../../kernel/paper/pdf.ts';
import { trimZeros } from '../../kernel/quantity-text.ts';
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
 * with its weight where it is known.
 * @throws Problem 404
 */
export async function transferNotePdf(db: Db, document: string): Promise<Uint8Array> {
  const head = await readTransferHead(db, document);
  const [rows, own, left] = await Promise.all([
    readLeft(db, head),
    company(db),
    readLeaving(db, head)
  ]);
  const paper = new Paper('Transfer note', head.document);
  paper.facts([
    ['from', `${own.name}, ${head.fromName}`],
    ['to', `${own.name}, ${head.toName}`],
    ...(left ? [['left', sayInstantAt(left.at, left.zone)] as const] : []),
    ['opened by', head.openedBy],
    ['net weight', sayNetWeight(rows)]
  ]);
  for (const [sscc, of] of groupBy(rows, (row) => row.sscc ?? '')) writeCarton(paper, sscc, of);
  paper.space(60);
  paper.y += 26;
  writeAt(paper.doc, 'received, all of it: ______________________________', paper.left, paper.y);
  return paper.end(`Transfer ${head.document}`);
}

function writeCarton(paper: Paper, sscc: string, rows: readonly Row[]): void {
  const { doc, left, right } = paper;
  paper.space(60);
  paper.rule(INK);
  if (sscc !== '') {
    writeAt(doc, saySscc(sscc), left, paper.y, { face: 'mono', points: 11 });
    paper.y += 17;
  }
  for (const [product, of] of groupBy(rows, (row) => row.product)) {
    paper.space(34);
    const name = fitted(doc, `${product}  ${of[0]!.name}`, mm(120), { face: 'bold', points: 10 });
    writeAt(doc, name, left, paper.y, { face: 'bold', points: 10 });
    const sum = `${totalOf(of.map((row) => row.quantity))} ${of[0]!.unit}`;
    writeAt(doc, sum, left, paper.y, { points: 10, width: right - left, align: 'right' });
    paper.y += 15;
    for (const row of of) {
      paper.space(14);
      const number = row.number ?? 'no number';
      writeAt(doc, number, left + mm(4), paper.y, { face: 'mono', points: 9 });
      if (row.lot)
        writeAt(doc, `lot ${row.lot}`, left + mm(70), paper.y, { points: 9, colour: SOFT });
      writeAt(doc, row.quantity, left, paper.y, {
        points: 9,
        width: right - left,
        align: 'right'
      });
      paper.y += 12;
    }
    paper.y += 4;
  }
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
