import { monthsLater, dayOf } from '../../core/calendar/day.ts';
import { formatQuantity, quantity, total, type Quantity } from '../../core/quantity/quantity.ts';
import { volumetricWeight, type TransportMode } from '../../core/quantity/volumetric.ts';
import { company } from '../catalogue/company.ts';
import type { Db } from '../kernel/db/client.ts';
import { expiryOf } from '../kernel/db/what-counts.ts';
import { trimZeros } from '../kernel/quantity-text.ts';
import { readDrawing, readGlassSignature, type GlassSignature } from '../ledger/glass-signature.ts';
import { readPaperHead, type PaperHead } from '../ledger/paper-head.ts';

/** One mark that left, within its carton. */
export interface DeliveredRow {
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
export interface DeliveryNote extends PaperHead {
  from: string;
  address: string;
  rows: (DeliveredRow & { warrantyUntil: string | null })[];
  /** Whoever took it over signed on glass; null where nobody did. */
  signature: (GlassSignature & { png: Uint8Array }) | null;
}

/** What left on a shipment, carton by carton. Null where the event is no shipment. */
export async function readDeliveryNote(db: Db, event: number): Promise<DeliveryNote | null> {
  const head = await readPaperHead(db, event, 'ship');
  if (!head) return null;
  const rows = await readRows(db, event);
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

/** What stood in a carton is told with it; the rest of a mark left loose. */
const readRows = (db: Db, event: number): Promise<DeliveredRow[]> => db<DeliveredRow[]>`
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

/** Net, gross and volumetric weight of what left, in kg; null where a product lacks the measure. */
export function weightsOf(
  rows: readonly DeliveredRow[],
  mode: TransportMode
): { net: string | null; gross: string | null; volumetric: string | null } {
  const sum = (of: (row: DeliveredRow) => string | null): string | null => {
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

async function readSigned(db: Db, event: number): Promise<DeliveryNote['signature']> {
  const signed = await readGlassSignature(db, event);
  return signed && { ...signed, png: await readDrawing(db, event) };
}
