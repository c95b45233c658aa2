import { sayFacts, type FactValues } from '../../core/marking/facts.ts';
import { sayDay } from '../../core/calendar/say-day.ts';
import { dayOf } from '../../core/calendar/day.ts';
import { groupBy } from '../../core/group-by.ts';
import { totalOf } from '../../core/quantity/quantity.ts';
import type { Db } from '../db/client.ts';
import { trimZeros } from '../reading/mark-record.ts';
import { bytesOf, fitted, mm, newPdf, writeAt } from './pdf.ts';

interface NoteRow { product: string; name: string; unit: string; kind: 'lot' | 'serial' | 'bulk'; number: string | null; lot: string | null; supplierNumber: string | null; expires: string | null; facts: FactValues; place: string; quantity: string }
interface Note { document: string; reference: string | null; partner: string; partnerCode: string; at: Date; bookedAt: Date; who: string; zone: string; event: number; rows: NoteRow[]; remarks: { message: string; reason: string | null }[] }

/** What a goods received note says; null where the event is no receipt. */
export async function readGoodsReceived(db: Db, event: number): Promise<Note | null> {
  const [head] = await db<Omit<Note, 'rows' | 'remarks'>[]>`
    SELECT e.id AS event, e.document, e.reference, t.name AS partner, t.code AS "partnerCode", e.happened_at AS at, e.booked_at AS "bookedAt", w.name AS who,
      coalesce((SELECT s.zone FROM movement v JOIN place c ON c.id = v.place_id JOIN site s ON s.id = c.site_id WHERE v.event_id = e.id LIMIT 1), 'UTC') AS zone
    FROM event e JOIN person w ON w.id = e.booked_by JOIN partner t ON t.id = e.partner_id WHERE e.id = ${event} AND e.kind = 'receive'`;
  if (!head) return null;
  const rows = await db<NoteRow[]>`
    SELECT p.code AS product, p.name, p.unit, m.kind, m.number, l.number AS lot, m.supplier_number AS "supplierNumber", coalesce(m.expires_on, l.expires_on) AS expires, m.facts, c.code AS place, v.quantity
    FROM movement v JOIN mark m ON m.id = v.mark_id JOIN product p ON p.id = m.product_id JOIN place c ON c.id = v.place_id LEFT JOIN mark l ON l.id = m.lot_id
    WHERE v.event_id = ${event} ORDER BY p.code, l.number_key NULLS FIRST, m.number_key, v.id`;
  const remarks = await db<Note['remarks']>`SELECT message, reason FROM booking_remark WHERE event_id = ${event} ORDER BY id`;
  return { ...head, rows: rows.map((row) => ({ ...row, quantity: trimZeros(row.quantity) })), remarks };
}

const WIDTH = 210 - 2 * 16;
const SERIAL_COLUMNS = 4;

/** The goods received note as a PDF: every lot with its quantity, dates and facts, every serial, and what was gone on in spite of. */
export async function goodsReceivedPdf(note: Note): Promise<Uint8Array> {
  const doc = newPdf({ title: `Goods received note ${note.document}` });
  const left = mm(16), right = mm(16 + WIDTH), bottom = mm(297 - 18);
  let y = mm(16);
  const space = (needed: number) => { if (y + needed > bottom) { doc.addPage(); y = mm(16); } };
  const rule = (colour = '#DDD5C7') => { doc.moveTo(left, y).lineTo(right, y).lineWidth(0.6).stroke(colour); y += 4; };

  writeAt(doc, 'Goods received note', left, y, { face: 'bold', points: 17 });
  writeAt(doc, note.document, left, y + 1, { face: 'mono', points: 15, width: right - left, align: 'right' });
  y += 28;
  const instant = (at: Date) => `${sayDay(dayOf(at, note.zone))}, ${new Intl.DateTimeFormat('en-GB', { timeZone: note.zone, hour: '2-digit', minute: '2-digit' }).format(at)}`;
  const facts: [string, string][] = [['from', `${note.partner} (${note.partnerCode})`], ['received', instant(note.at)], ['by', note.who], ...(note.reference ? [['their delivery note', note.reference] as [string, string]] : []), ['event', `${note.event}, booked ${instant(note.bookedAt)}`]];
  for (const [says, value] of facts) {
    writeAt(doc, says, left, y, { colour: '#55626A' });
    writeAt(doc, fitted(doc, value, mm(WIDTH - 40), { points: 9.5 }), left + mm(40), y, { points: 9.5 });
    y += 14;
  }
  y += 6;
  for (const group of groupBy(note.rows, (row) => row.product).values()) {
    const [first] = group;
    space(60);
    rule('#1D2930');
    const name = writeAt(doc, first!.product, left, y, { face: 'mono', points: 10.5 });
    writeAt(doc, fitted(doc, first!.name, mm(90), { face: 'bold', points: 10.5 }), left + name + 8, y, { face: 'bold', points: 10.5 });
    writeAt(doc, `${totalOf(group.map((row) => row.quantity))} ${first!.unit}`, left, y, { face: 'bold', points: 10.5, width: right - left, align: 'right' });
    y += 18;
    for (const row of group.filter((one) => one.kind !== 'serial')) {
      space(26);
      writeAt(doc, row.number ?? 'without number', left + mm(4), y, { face: row.number ? 'mono' : 'sans', points: 9.5 });
      writeAt(doc, `${row.quantity} ${row.unit} · ${row.place}`, left, y, { points: 9.5, width: right - left, align: 'right' });
      y += 13;
      y = details(detailsOf(row), y);
    }
    for (const serials of groupBy(group.filter((one) => one.kind === 'serial'), (row) => row.lot ?? '').values()) {
      space(30);
      const head = [serials[0]!.lot ? `lot ${serials[0]!.lot}` : '', `${serials.length} serial${serials.length === 1 ? '' : 's'}`, ...new Set(serials.map((row) => row.place))].filter(Boolean).join(' · ');
      writeAt(doc, head, left + mm(4), y, { points: 9, colour: '#55626A' });
      y += 13;
      const shared = sharedDetails(serials);
      y = details(shared, y);
      const own = serials.map((row) => ({ number: row.number!, more: detailsOf(row).filter((detail) => !shared.includes(detail)) }));
      if (own.every((row) => row.more.length === 0)) {
        own.forEach((row, index) => {
          const column = index % SERIAL_COLUMNS;
          if (column === 0 && index > 0) y += 12;
          if (column === 0) space(14);
          writeAt(doc, fitted(doc, row.number, mm(WIDTH / SERIAL_COLUMNS - 3), { face: 'mono', points: 9 }), left + mm(4 + column * (WIDTH - 4) / SERIAL_COLUMNS), y, { face: 'mono', points: 9 });
        });
        y += 15;
      } else for (const row of own) {
        space(14);
        writeAt(doc, row.number, left + mm(4), y, { face: 'mono', points: 9 });
        writeAt(doc, fitted(doc, row.more.join(' · '), mm(WIDTH - 64)), left + mm(60), y, { colour: '#55626A' });
        y += 12;
      }
    }
    y += 6;
  }
  if (note.remarks.length > 0) {
    space(40);
    rule('#1D2930');
    writeAt(doc, 'Gone on in spite of', left, y, { face: 'bold', points: 10.5 });
    y += 16;
    for (const remark of note.remarks) {
      space(26);
      writeAt(doc, fitted(doc, remark.message, right - left), left, y, { points: 9 });
      if (remark.reason) writeAt(doc, fitted(doc, `Reason: ${remark.reason}`, right - left), left, y + 12, { points: 9, colour: '#85520A' });
      y += remark.reason ? 27 : 15;
    }
  }
  const pages = doc.bufferedPageRange().count;
  for (let page = 0; page < pages; page++) {
    doc.switchToPage(page);
    doc.page.margins.bottom = 0;       // the foot stands in the margin
    writeAt(doc, `${note.document} · ${note.rows.length} movement${note.rows.length === 1 ? '' : 's'}`, left, mm(297 - 12), { points: 8, colour: '#55626A' });
    writeAt(doc, `page ${page + 1} of ${pages}`, left, mm(297 - 12), { points: 8, colour: '#55626A', width: right - left, align: 'right' });
  }
  return bytesOf(doc);

  function details(lines: readonly string[], at: number): number {
    if (lines.length === 0) return at;
    writeAt(doc, fitted(doc, lines.join(' · '), right - left - mm(4)), left + mm(4), at, { colour: '#55626A' });
    return at + 14;
  }
}

const detailsOf = (row: NoteRow): string[] => [
  ...(row.expires ? [`expires ${sayDay(row.expires)}`] : []), ...(row.supplierNumber ? [`theirs ${row.supplierNumber}`] : []),
  ...sayFacts(row.facts)
];

/** What all serials of a lot have alike is said once. */
function sharedDetails(rows: readonly NoteRow[]): string[] {
  return detailsOf(rows[0]!).filter((detail) => rows.every((row) => detailsOf(row).includes(detail)));
}

