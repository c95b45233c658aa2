import type { NamedMarks } from '../../core/ledger/request.ts';
import { codeKey, markKey, type KnownProduct } from '../../core/ledger/snapshot.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Tx } from '../kernel/db/client.ts';
import { askable } from './named-codes.ts';

/** Which order named each of these outputs ahead. */
export async function readNamed(
  tx: Tx,
  products: ReadonlyMap<string, KnownProduct>,
  outputs: readonly NamedMarks[]
): Promise<Map<string, string>> {
  const rows = outputs.flatMap(({ product: code, marks }) => {
    const product = products.get(codeKey(code));
    return product
      ? marks.flatMap((mark) => {
          const number = mark.serial ?? mark.lot;
          return askable(number) ? [{ id: product.id, key: numberKey(number) }] : [];
        })
      : [];
  });
  if (rows.length === 0) return new Map();
  // Each by itself, as marks are (read-marks.ts).
  const found = await tx<{ product_id: number; number: string; serial: boolean; order: string }[]>`
    SELECT n.product_id, n.number, p.marking LIKE 'serial%' AS serial, o.number AS order
    FROM unnest(
      ${rows.map((row) => row.id)}::bigint[], ${rows.map((row) => row.key)}::text[]
    ) AS w (product_id, number_key)
      CROSS JOIN LATERAL (
        SELECT *
        FROM planned_output
        WHERE product_id = w.product_id AND number_key = w.number_key
        OFFSET 0
      ) n
      JOIN product p ON p.id = n.product_id
      JOIN trade_order o ON o.id = n.order_id
  `;
  return new Map(
    found.map((row) => [
      markKey(row.product_id, row.serial ? 'serial' : 'lot', row.number),
      row.order
    ])
  );
}
