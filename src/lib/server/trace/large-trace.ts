import { summarise } from '../../core/trace/large-trace.ts';
import { readMarkRecords } from '../ledger/mark-record.ts';
import type { Db } from '../kernel/db/client.ts';
import type { TraceFigures } from '../../core/trace/trace-answer.ts';

/** Most marks that time cleared which a screen lists; the file has them all. */
const CLEARED_LISTED = 200;

/**
 * What a trace too large to draw comes to, and what its first root is called.
 * @param products names and measures by product code
 */
export async function readLargeTrace(
  db: Db,
  figures: TraceFigures,
  products: Readonly<Record<string, { name: string; unit: string }>>
) {
  const codes = await db<{ id: number; code: string }[]>`SELECT id, code FROM product`;
  const codeOf = new Map(codes.map((row) => [row.id, row.code]));
  const [root] = await db<{ id: number; kind: string; number: string | null; product: string }[]>`
    SELECT m.id, m.kind, m.number, p.code AS product
    FROM mark m
      JOIN product p ON p.id = m.product_id
    WHERE m.id = ${figures.marks[0]!}
  `;
  const { product, number, kind, id } = root!;
  const ids = Array.from(figures.cleared.marks);
  const listed = await readMarkRecords(db, ids.slice(0, CLEARED_LISTED));
  const ofWhat = kind === 'bulk' ? 'kept by quantity' : kind;
  return {
    ...summarise(
      figures,
      Array.from(figures.product, (one) => codeOf.get(one) ?? '')
    ),
    cleared: { count: ids.length, marks: listed, customers: figures.cleared.customers },
    title: number ?? `${product}, unmarked`,
    rootId: id,
    rootUnit: products[product]?.unit ?? '',
    rootName: `${products[product]?.name ?? product}, ${ofWhat}`
  };
}
