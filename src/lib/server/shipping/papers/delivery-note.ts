import { apart } from '../../kernel/paper/draw-apart.ts';
import { expiryOf } from '../../kernel/db/what-counts.ts';
import { monthsLater } from '../../../core/calendar/day.ts';
import { sayDay } from '../../../core/calendar/say-day.ts';
import { dayOf } from '../../../core/calendar/day.ts';
import { groupBy } from '../../../core/group-by.ts';
import { saySscc } from '../../../core/gs1/sscc.ts';
import {
  formatQuantity,
  quantity,
  total,
  totalOf,
  type Quantity
} from '../../../core/quantity/quantity.ts';
import { volumetricWeight, type TransportMode } from '../../../core/quantity/volumetric.ts';
import { company } from '../../catalogue/company.ts';
import type { Db } from '../../kernel/db/client.ts';
import {
  readDrawing,
  readGlassSignature,
  type GlassSignature
} from '../../ledger/glass-signature.ts';
import { trimZeros } from '../../kernel/quantity-text.ts';
import { INK, Paper, PAPER_WIDTH, sayInstantAt, SOFT } from '../../kernel/paper/paper.ts';
import { fitted, mm, writeAt } from '../../kernel/paper/pdf.ts';

interface Row {
  product: string;
  name: string;
  unit: string;
  kind: 'lot' | 'serial' | 'bulk';
  number: string | null;
  lot: string | null;
  expires: string | null;
  months: number | null;
  warrantyStart: string | null;
  net: string | null;
  gross: string | null;
  lengthCm: string | null;
  widthCm: string | null;
  heightCm: string | null;
  quantity: string;
  sscc: string | null;
  pallet: string | null;
}
export interface DeliveryNote {
  event: number;
  document: string;
  reference: string | null;
  partner: string;
  partnerCode: string;
  /** Where it goes, and to whom; empty where nobody said. */
  toAddress: string;
  contact: string;
  at: Date;
  who: string;
  zone: string;
  from: string;
  address: string;
  rows: (Row & { warrantyUntil: string | null })[];
  /** Whoever took it over signed on glass; null where nobody did. */
  signature: (GlassSignature & { png: Uint8Array }) | null;
}

/** What left on a shipment, carton by carton. Null where the event is no shipment. */
export async function readDeliveryNote(db: Db, event: number): Promise<DeliveryNote | null> {
  const [head] = await db<Omit<DeliveryNote, 'rows' | 'from' | 'address' | 'signature'>[]>`
    SELECT e.id AS event, paper_number(e.id) AS document, e.reference, t.name AS partner,
      t.code AS "partnerCode", t.address AS "toAddress", t.contact, e.happened_at AS at, w.name AS who,
      coalesce(
        (
          SELECT s.zone
          FROM movement v
            JOIN place c ON c.id = v.place_id
            JOIN site s ON s.id = c.site_id
          WHERE v.event_id = e.id
          LIMIT 1
        ),
          'UTC'
      ) AS zone
    FROM event e
      JOIN person w ON w.id = e.booked_by
      JOIN partner t ON t.id = e.partner_id
    WHERE e.id = ${event} AND e.kind = 'ship'
  `;
  if (!head) return null;
  // What stood in a carton is told with it; the rest of a mark left loose.
  const rows = await db<Row[]>`
    WITH moved AS (
      SELECT mark_id, -sum(quantity) AS quantity
      FROM movement
      WHERE event_id = ${event}
      GROUP BY mark_id
    ),
      boxed AS (
        SELECT c.mark_id, c.quantity, u.sscc, b.sscc AS pallet
        FROM unit_shipped s
          JOIN logistic_unit u ON u.id = s.unit_id
          JOIN unit_content c ON c.unit_id = u.id AND c.quantity > 0
          LEFT JOIN unit_on_pallet p ON p.child_id = u.id
          LEFT JOIN logistic_unit b ON b.id = p.pallet_id
        WHERE s.event_id = ${event}
      ),
      gone AS (
        SELECT mark_id, quantity, sscc, pallet
        FROM boxed
        UNION ALL
        SELECT m.mark_id,
          m.quantity - coalesce(
            (SELECT sum(b.quantity) FROM boxed b WHERE b.mark_id = m.mark_id), 0
          ),
          NULL, NULL
        FROM moved m
      )
    SELECT p.code AS product, p.name, p.unit, m.kind, m.number, l.number AS lot,
      ${expiryOf(db)} AS expires, m.warranty_months AS months,
      m.warranty_start AS "warrantyStart", p.net_weight_kg AS net, p.gross_weight_kg AS gross,
      p.length_cm AS "lengthCm", p.width_cm AS "widthCm", p.height_cm AS "heightCm", g.quantity,
      g.sscc, g.pallet
    FROM gone g
      JOIN mark m ON m.id = g.mark_id
      JOIN product p ON p.id = m.product_id
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE g.quantity > 0
    ORDER BY g.pallet NULLS LAST, g.sscc NULLS LAST, p.code, l.number_key NULLS FIRST, m.number_key
  `;
  const [us, signature] = await Promise.all([company(db), readSigned(db, event)]);
  const left = dayOf(head.at, head.zone);
  return {
    ...head,
    signature,
    from: us.name,
    address: us.address,
    rows: rows.map((row) => ({
      ...row,
      quantity: trimZeros(row.quantity),
      warrantyUntil: row.months === null ? null : monthsLater(row.warrantyStart ?? left, row.months)
    }))
  };
}

/** Net, gross and volumetric weight of what left, in kg; null where a product lacks the measure. */
export function weightsOf(
  rows: readonly Row[],
  mode: TransportMode
): { net: string | null; gross: string | null; volumetric: string | null } {
  const sum = (of: (row: Row) => string | null): string | null => {
    const parts = rows.map((row) => {
      const one = of(row);
      return one === null ? null : quantity(one).times(row.quantity);
    });
    return parts.some((part) => part === null)
      ? null
      : formatQuantity(total(parts as Quantity[]).toDecimalPlaces(3));
  };
  return {
    net: sum((row) => row.net),
    gross: sum((row) => row.gross ?? row.net),
    volumetric: sum((row) => volumetricWeight(row, mode))
  };
}

/**
 * The delivery note as PDF: cartons and pallets, every lot and serial with its dates, weights, and
 * until when the warranty runs.
 */
export async function drawDeliveryNote(note: DeliveryNote): Promise<Uint8Array> {
  const paper = new Paper('Delivery note', note.document);
  const { doc, left, right } = paper;
  const kilos = (value: string | null): string =>
    value === null ? 'not known for every product' : `${value} kg`;
  const road = weightsOf(note.rows, 'road'),
    air = weightsOf(note.rows, 'air');
  const cartons = new Set(note.rows.flatMap((row) => row.sscc ?? [])),
    pallets = new Set(note.rows.flatMap((row) => row.pallet ?? []));
  paper.facts([
    ['from', [note.from, ...note.address.split('\n')].filter(Boolean).join(', ')],
    [
      'to',
      [`${note.partner} (${note.partnerCode})`, ...note.toAddress.split('\n'), note.contact]
        .filter(Boolean)
        .join(', ')
    ],
    ['left', `${sayInstantAt(note.at, note.zone)}, by ${note.who}`],
    ...(note.reference ? [['carrier’s number', note.reference] as const] : []),
    ...(cartons.size > 0
      ? [
          [
            'packed in',
            `${cartons.size} ${cartons.size === 1 ? 'carton' : 'cartons'}${pallets.size > 0 ? ` on ${pallets.size} ${pallets.size === 1 ? 'pallet' : 'pallets'}` : ''}`
          ] as const
        ]
      : []),
    ['weight', `net ${kilos(road.net)} · gross ${kilos(road.gross)}`],
    ['volumetric weight', `by road ${kilos(road.volumetric)} · by air ${kilos(air.volumetric)}`],
    ['event', String(note.event)]
  ]);
  for (const boxes of groupBy(note.rows, (row) => row.sscc ?? '').values()) {
    const { sscc, pallet } = boxes[0]!;
    paper.space(60);
    if (cartons.size > 0) {
      paper.rule(INK);
      writeAt(doc, sscc === null ? 'Loose' : 'Carton', left, paper.y, {
        face: 'bold',
        points: 10.5
      });
      if (sscc !== null)
        writeAt(
          doc,
          `${saySscc(sscc)}${pallet ? `  on pallet ${saySscc(pallet)}` : ''}`,
          left + mm(18),
          paper.y + 1,
          { face: 'mono', points: 9 }
        );
      paper.y += 17;
    }
    for (const group of groupBy(boxes, (row) => row.product).values()) productRows(group);
    paper.y += 4;
  }
  if (note.signature) writeSignature(paper, note.signature, note.zone);
  return paper.end(
    `${note.document} · ${note.rows.length} ${note.rows.length === 1 ? 'line' : 'lines'} of lots and serials`
  );

  function productRows(group: readonly DeliveryNote['rows'][number][]): void {
    const [first] = group;
    paper.space(40);
    paper.rule();
    const width = writeAt(doc, first!.product, left, paper.y, { face: 'mono', points: 10 });
    writeAt(
      doc,
      fitted(doc, first!.name, mm(90), { face: 'bold', points: 10 }),
      left + width + 8,
      paper.y,
      { face: 'bold', points: 10 }
    );
    writeAt(doc, `${totalOf(group.map((row) => row.quantity))} ${first!.unit}`, left, paper.y, {
      face: 'bold',
      points: 10,
      width: right - left,
      align: 'right'
    });
    paper.y += 16;
    // What all of them have alike is said once.
    const facts = (row: (typeof group)[number]) =>
      [
        row.kind === 'serial' && row.lot ? `lot ${row.lot}` : '',
        row.expires ? `expires ${sayDay(row.expires)}` : '',
        row.warrantyUntil ? `warranty until ${sayDay(row.warrantyUntil)}` : ''
      ].filter(Boolean);
    for (const rows of groupBy(group, (row) => facts(row).join(' · ')).values()) {
      const said = facts(rows[0]!).join(' · ');
      if (said) {
        paper.space(26);
        writeAt(doc, fitted(doc, said, right - left - mm(4)), left + mm(4), paper.y, {
          colour: SOFT
        });
        paper.y += 13;
      }
      const serials = rows.filter((row) => row.kind === 'serial'),
        others = rows.filter((row) => row.kind !== 'serial');
      for (const row of others) {
        paper.space(14);
        writeAt(doc, row.number ?? 'without number', left + mm(4), paper.y, {
          face: row.number ? 'mono' : 'sans'
        });
        writeAt(doc, `${row.quantity} ${row.unit}`, left, paper.y, {
          width: right - left,
          align: 'right'
        });
        paper.y += 13;
      }
      serials.forEach((row, index) => {
        const column = index % 4;
        if (column === 0) paper.space(14);
        writeAt(
          doc,
          fitted(doc, row.number!, mm(PAPER_WIDTH / 4 - 3), { face: 'mono' }),
          left + mm(4 + (column * (PAPER_WIDTH - 4)) / 4),
          paper.y,
          { face: 'mono' }
        );
        if (column === 3 || index === serials.length - 1) paper.y += 13;
      });
    }
    paper.y += 4;
  }
}

async function readSigned(db: Db, event: number): Promise<DeliveryNote['signature']> {
  const signed = await readGlassSignature(db, event);
  return signed && { ...signed, png: await readDrawing(db, event) };
}

function writeSignature(
  paper: Paper,
  { name, at, png }: NonNullable<DeliveryNote['signature']>,
  zone: string
): void {
  paper.space(90);
  paper.rule(INK);
  paper.doc.image(Buffer.from(png), paper.left, paper.y, { fit: [mm(60), mm(20)] });
  paper.y += mm(21);
  paper.cell(`taken over by ${name}, ${sayInstantAt(new Date(at), zone)}`, 0, 120, { points: 9.5 });
  paper.y += 16;
}

/** The same, drawn apart. */
export const deliveryNotePdf = apart('delivery-note', drawDeliveryNote);
