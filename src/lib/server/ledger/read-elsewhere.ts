import type { MarkKind } from '../../core/catalogue/marking.ts';
import type { Wants } from '../../core/ledger/request.ts';
import {
  markGroup,
  type KnownMark,
  type KnownProduct,
  type MarkIndex,
  type Snapshot
} from '../../core/ledger/snapshot.ts';
import { keyOfNumber } from '../../core/numbers/number.ts';
import type { Tx } from '../kernel/db/client.ts';
import { byCode } from './by-code.ts';

/** A number that can be one and is none of these. */
function addMissing(
  missing: Set<string>,
  known: ReadonlyMap<string, KnownMark> | undefined,
  number: string | undefined
): void {
  const key = number === undefined ? null : keyOfNumber(number);
  if (key !== null && !known?.has(key)) missing.add(key);
}

/** Which marks of other products have the numbers that were named and not found. */
export async function readElsewhere(
  tx: Tx,
  products: ReadonlyMap<string, KnownProduct>,
  named: Wants['marks'],
  marks: MarkIndex
): Promise<Snapshot['elsewhere']> {
  const missing = new Set<string>();
  const indexOf = byCode(products, ({ id }) => ({
    lots: marks.get(markGroup(id, 'lot')),
    serials: marks.get(markGroup(id, 'serial'))
  }));
  for (const { product: code, marks: rows } of named) {
    const index = indexOf(code);
    if (!index) continue;
    for (const { lot, serial } of rows) {
      addMissing(missing, index.lots, lot);
      addMissing(missing, index.serials, serial);
    }
  }
  if (missing.size === 0) return new Map();
  const numbers = [...missing];
  const rows = await tx<
    { number_key: string; kind: MarkKind; product: string; now: string | null }[]
  >`
    SELECT DISTINCT ON (f.number_key) f.number_key, f.kind, f.now,
      p.code || ' ' || p.name AS product
    FROM (
      SELECT m.number_key, m.kind, m.product_id, NULL AS now, m.id
      FROM mark m
      WHERE m.number_key = ANY(${numbers})
      UNION ALL
      SELECT upper(c.old_value), m.kind, m.product_id, m.number::text, m.id
      FROM mark_change c
        JOIN mark m ON m.id = c.mark_id
      WHERE c.field = 'number'
        AND upper(c.old_value) = ANY(${numbers})
        AND m.number_key <> upper(c.old_value)
    ) f
      JOIN product p ON p.id = f.product_id
    ORDER BY f.number_key, f.now NULLS FIRST, f.id
  `;
  return new Map(
    rows.map(({ now, ...row }) => [row.number_key, now === null ? row : { ...row, now }])
  );
}
