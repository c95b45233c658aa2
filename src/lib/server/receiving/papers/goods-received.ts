import { apart } from '../../kernel/paper/draw-apart.ts';
import { expiryOf } from '../../kernel/db/what-counts.ts';
import { sayFacts, type FactValues } from '../../../core/catalogue/facts.ts';
import { sayDay } from '../../../core/calendar/say-day.ts';
import { groupBy } from '../../../core/group-by.ts';
import { sayNetWeight } from '../../../core/quantity/say-net-weight.ts';
import { totalOf } from '../../../core/quantity/quantity.ts';
import type { Db } from '../../kernel/db/client.ts';
import { trimZeros } from '../../kernel/quantity-text.ts';
import { BRASS, INK, Paper, PAPER_WIDTH, sayInstantAt, SOFT } from '../../kernel/paper/paper.ts';
import { fitted, mm, writeAt } from '../../kernel/paper/pdf.ts';
import { readPaperHead, type PaperHead } from '../../ledger/paper-head.ts';

interface NoteRow {
  product: string;
  name: string;
  unit: string;
  kind: 'lot' | 'serial' | 'bulk';
  /** As it was received, and what it is called now where it was amended since. */
  number: string | null;
  now: string | null;
  lot: string | null;
  supplierNumber: string | null;
  expires: string | null;
  facts: FactValues;
  place: string;
  quantity: string;
  net: string | null;
}
interface Note extends PaperHead {
  rows: NoteRow[];
  remarks: { message: string; reason: string | null; approvedBy: string | null }[];
}

/** What a mark was called at an event: what its first amendment since called it before. */
const numberThen = (db: Db, mark: ReturnType<Db>, now: ReturnType<Db>, event: number) => db`
  coalesce(
    (
      SELECT c.old_value
      FROM mark_change c
      WHERE c.mark_id = ${mark} AND c.field = 'number' AND c.event_id > ${event}
      ORDER BY c.id
      LIMIT 1
    ),
      ${now}::text
  )
`;

/** What a goods received note says; null where the event is no receipt. */
export async function readGoodsReceived(db: Db, event: number): Promise<Note | null> {
  const head = await readPaperHead(db, event, 'receive');
  if (!head) return null;
  const rows = await db<NoteRow[]>`
    SELECT p.code AS product, p.name, p.unit, m.kind,
      ${numberThen(db, db`m.id`, db`m.number`, event)} AS number,
      nullif(m.number::text, ${numberThen(db, db`m.id`, db`m.number`, event)}) AS now,
      ${numberThen(db, db`l.id`, db`l.number`, event)} AS lot,
      m.supplier_number AS "supplierNumber", ${expiryOf(db)} AS expires,
      m.facts, c.code AS place, v.quantity, p.net_weight_kg AS net
    FROM movement v
      JOIN mark m ON m.id = v.mark_id
      JOIN product p ON p.id = m.product_id
      JOIN place c ON c.id = v.place_id
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE v.event_id = ${event}
    ORDER BY p.code, l.number_key NULLS FIRST, m.number_key, v.id
  `;
  const remarks = await db<Note['remarks']>`
    SELECT r.message, r.reason, p.name AS "approvedBy"
    FROM booking_remark r
      LEFT JOIN approval a ON a.id = r.approval_id
      LEFT JOIN person p ON p.id = a.approved_by
    WHERE r.event_id = ${event}
    ORDER BY r.id
  `;
  return {
    ...head,
    rows: rows.map((row) => ({ ...row, quantity: trimZeros(row.quantity) })),
    remarks
  };
}

const SERIAL_COLUMNS = 4;

/**
 * The goods received note as a PDF: every lot with its quantity, dates and facts, every serial, and
 * what was gone on in spite of.
 */
export async function drawGoodsReceived(note: Note): Promise<Uint8Array> {
  const paper = new Paper('Goods received note', note.document);
  const { doc, left, right } = paper;
  paper.facts([
    ['from', `${note.partner} (${note.partnerCode})`],
    ['received', sayInstantAt(note.at, note.zone)],
    ['by', note.who],
    ...(note.reference ? [['their delivery note', note.reference] as const] : []),
    ['net weight', sayNetWeight(note.rows)],
    ['event', `${note.event}, booked ${sayInstantAt(note.bookedAt, note.zone)}`]
  ]);
  for (const group of groupBy(note.rows, (row) => row.product).values()) {
    const [first] = group;
    paper.space(60);
    paper.rule(INK);
    const name = writeAt(doc, first!.product, left, paper.y, { face: 'mono', points: 10.5 });
    writeAt(
      doc,
      fitted(doc, first!.name, mm(90), { face: 'bold', points: 10.5 }),
      left + name + 8,
      paper.y,
      { face: 'bold', points: 10.5 }
    );
    writeAt(doc, `${totalOf(group.map((row) => row.quantity))} ${first!.unit}`, left, paper.y, {
      face: 'bold',
      points: 10.5,
      width: right - left,
      align: 'right'
    });
    paper.y += 18;
    for (const row of group.filter((one) => one.kind !== 'serial')) {
      paper.space(26);
      writeAt(doc, row.number ?? 'without number', left + mm(4), paper.y, {
        face: row.number ? 'mono' : 'sans',
        points: 9.5
      });
      writeAt(doc, `${row.quantity} ${row.unit} · ${row.place}`, left, paper.y, {
        points: 9.5,
        width: right - left,
        align: 'right'
      });
      paper.y += 13;
      paper.y = details(detailsOf(row), paper.y);
    }
    for (const serials of groupBy(
      group.filter((one) => one.kind === 'serial'),
      (row) => row.lot ?? ''
    ).values()) {
      paper.space(30);
      const head = [
        serials[0]!.lot ? `lot ${serials[0]!.lot}` : '',
        `${serials.length} serial${serials.length === 1 ? '' : 's'}`,
        ...new Set(serials.map((row) => row.place))
      ]
        .filter(Boolean)
        .join(' · ');
      writeAt(doc, head, left + mm(4), paper.y, { points: 9, colour: SOFT });
      paper.y += 13;
      const shared = sharedDetails(serials);
      paper.y = details(shared, paper.y);
      const own = serials.map((row) => ({
        number: row.number!,
        more: detailsOf(row).filter((detail) => !shared.includes(detail))
      }));
      if (own.every((row) => row.more.length === 0)) {
        own.forEach((row, index) => {
          const column = index % SERIAL_COLUMNS;
          if (column === 0 && index > 0) paper.y += 12;
          if (column === 0) paper.space(14);
          writeAt(
            doc,
            fitted(doc, row.number, mm(PAPER_WIDTH / SERIAL_COLUMNS - 3), {
              face: 'mono',
              points: 9
            }),
            left + mm(4 + (column * (PAPER_WIDTH - 4)) / SERIAL_COLUMNS),
            paper.y,
            { face: 'mono', points: 9 }
          );
        });
        paper.y += 15;
      } else
        for (const row of own) {
          paper.space(14);
          writeAt(doc, row.number, left + mm(4), paper.y, { face: 'mono', points: 9 });
          writeAt(
            doc,
            fitted(doc, row.more.join(' · '), mm(PAPER_WIDTH - 64)),
            left + mm(60),
            paper.y,
            { colour: SOFT }
          );
          paper.y += 12;
        }
    }
    paper.y += 6;
  }
  if (note.remarks.length > 0) {
    paper.space(40);
    paper.rule(INK);
    writeAt(doc, 'Gone on in spite of', left, paper.y, { face: 'bold', points: 10.5 });
    paper.y += 16;
    for (const remark of note.remarks) {
      paper.space(26);
      writeAt(doc, fitted(doc, remark.message, right - left), left, paper.y, { points: 9 });
      const approved = remark.approvedBy ? `Approved by ${remark.approvedBy}: ` : 'Reason: ';
      const why = `${approved}${remark.reason}`;
      if (remark.reason)
        writeAt(doc, fitted(doc, why, right - left), left, paper.y + 12, {
          points: 9,
          colour: BRASS
        });
      paper.y += remark.reason ? 27 : 15;
    }
  }
  return paper.end(
    `${note.document} · ${note.rows.length} movement${note.rows.length === 1 ? '' : 's'}`
  );

  function details(lines: readonly string[], at: number): number {
    if (lines.length === 0) return at;
    writeAt(doc, fitted(doc, lines.join(' · '), right - left - mm(4)), left + mm(4), at, {
      colour: SOFT
    });
    return at + 14;
  }
}

const detailsOf = (row: NoteRow): string[] => [
  ...(row.now ? [`amended since to ${row.now}`] : []),
  ...(row.expires ? [`expires ${sayDay(row.expires)}`] : []),
  ...(row.supplierNumber ? [`theirs ${row.supplierNumber}`] : []),
  ...sayFacts(row.facts)
];

/** What all serials of a lot have alike is said once. */
function sharedDetails(rows: readonly NoteRow[]): string[] {
  const all = rows.map((row) => new Set(detailsOf(row)));
  return [...all[0]!].filter((detail) => all.every((details) => details.has(detail)));
}

/** The same, drawn apart. */
export const goodsReceivedPdf = apart('goods-received', drawGoodsReceived);
