import type { MarkKind } from '../../core/catalogue/marking.ts';
import { markGroup, type MarkIndex, type Snapshot } from '../../core/ledger/snapshot.ts';
import type { Tx } from '../kernel/db/client.ts';
import type { WantedMarks } from './wanted-marks.ts';

/** The keys that are none of the marks found of their product and kind. */
const missingOf = ({ productId, kind, keys }: WantedMarks, marks: MarkIndex): string[] => {
  const known = marks.get(markGroup(productId, kind));
  // Nothing else was looked for: where as many were found, it is all of them.
  if (known?.size === keys.size) return [];
  return [...keys].filter((key) => !known?.has(key));
};

/**
 * Which marks of other products have the numbers that were named and not found.
 * @param marks what was found of `wanted`
 */
export async function readElsewhere(
  tx: Tx,
  wanted: readonly WantedMarks[],
  marks: MarkIndex
): Promise<Snapshot['elsewhere']> {
  const missing = new Set(wanted.flatMap((one) => missingOf(one, marks)));
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
