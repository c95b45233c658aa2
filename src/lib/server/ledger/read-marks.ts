import type postgres from 'postgres';
import type { FactValues } from '../../core/catalogue/facts.ts';
import type { MarkKind } from '../../core/catalogue/marking.ts';
import type { KnownMark, KnownProduct } from '../../core/ledger/snapshot.ts';
import type { Tx } from '../kernel/db/client.ts';
import { idList } from '../kernel/db/id-list.ts';
import { inColumns, type Columns } from '../kernel/db/in-columns.ts';
import type { WantedMarks } from './wanted-marks.ts';

interface MarkRow {
  id: number;
  product_id: number;
  kind: MarkKind;
  number: string | null;
  lot_id: number | null;
  state: KnownMark['state'];
  expires_on: string | null;
  made_on: string | null;
  retest_on: string | null;
  supplier_number: string | null;
  facts: FactValues | null;
  born_on: string;
  unmade: boolean;
}
/** Which mark it is, and no more. */
const WHICH = ['id', 'product_id', 'kind', 'number', 'lot_id'] as const;
const MARK = [
  ...WHICH,
  'state',
  'expires_on',
  'made_on',
  'retest_on',
  'supplier_number',
  'facts',
  'born_on',
  'unmade'
] as const;
/**
 * All keys in one text, and for each product and kind the stretch of it that is theirs, so that ten
 * thousand numbers are sent once and not with their product and kind beside every one. A number
 * holds no line end, and neither side has to quote each.
 */
function asStretches(wanted: readonly WantedMarks[]) {
  let end = 0;
  return {
    keys: wanted.flatMap(({ keys }) => [...keys]).join('\n'),
    products: wanted.map(({ productId }) => productId),
    kinds: wanted.map(({ kind }) => kind),
    from: wanted.map(({ keys }) => {
      const start = end + 1;
      end += keys.size;
      return start;
    }),
    counts: wanted.map(({ keys }) => keys.size)
  };
}

/**
 * The marks a request names.
 * @param onlyWhich where all else is read behind the lock: which marks they are, and no more
 */
export async function findMarks(
  tx: Tx,
  products: ReadonlyMap<string, KnownProduct>,
  wantedOf: readonly WantedMarks[],
  onlyWhich: boolean
): Promise<KnownMark[]> {
  if (products.size === 0) return [];
  const wanted = asStretches(wantedOf);
  // Also of a numbered product: its plan may let numbers come later, or it was kept by quantity
  // before.
  const bulk = [...products.values()].map((product) => product.id);
  // Two branches, so that each has an index: an OR over both would read every mark of a product for
  // every number. Each number is looked up by itself (OFFSET 0): a plan made once for all values took
  // all marks of the product beside them, and the more there were, the longer a receipt of one took.
  const found = tx`
    SELECT m.*
    FROM unnest(
      ${wanted.products}::bigint[], ${wanted.kinds}::text[], ${wanted.from}::int[],
        ${wanted.counts}::int[]
    ) AS g (product_id, kind, first, count)
      CROSS JOIN LATERAL unnest(
        (
          SELECT k
          FROM (SELECT string_to_array(${wanted.keys}, E'\\n') AS k OFFSET 0) one
        )[g.first : g.first + g.count - 1]
      ) AS w (number_key)
      CROSS JOIN LATERAL (
        SELECT *
        FROM mark
        WHERE product_id = g.product_id AND kind = g.kind AND number_key = w.number_key
        OFFSET 0
      ) m
    UNION ALL
    SELECT m.*
    FROM mark m
    WHERE m.kind = 'bulk' AND m.product_id = ANY(${bulk})
  `;
  return asKnown(
    onlyWhich
      ? await inColumns<MarkRow>(tx, WHICH, tx`SELECT ${tx(WHICH)} FROM (${found}) m`)
      : await inColumns<MarkRow>(tx, MARK, allOf(tx, found))
  );
}

export const readMarks = async (tx: Tx, ids: readonly number[]): Promise<KnownMark[]> =>
  asKnown(
    await inColumns<MarkRow>(
      tx,
      MARK,
      allOf(tx, tx`SELECT * FROM mark WHERE id = ANY(${idList(ids)}::text::bigint[])`)
    )
  );

/**
 * All that a decision needs of these marks. Ten thousand are mostly born by one event: whether that
 * was taken back is asked once for each event.
 */
const allOf = (tx: Tx, marks: postgres.PendingQuery<postgres.Row[]>) => tx`
  WITH asked AS MATERIALIZED (${marks}),
  birth AS MATERIALIZED (
    SELECT e.id, e.happened_at::date AS born_on,
      EXISTS (SELECT FROM event b WHERE b.reverses_id = e.id) AS taken_back
    FROM event e
    WHERE e.id IN (SELECT a.birth_event FROM asked a)
  )
  SELECT m.id, m.product_id, m.kind, m.number, m.lot_id, m.state, m.expires_on, m.made_on,
    m.retest_on, m.supplier_number, nullif(m.facts, '{}') AS facts, b.born_on,
    (
      b.taken_back AND never_came(m.id)
        OR EXISTS (
          SELECT
          FROM transformation_output o
            JOIN transformation_reversed x USING (transformation_id)
          WHERE o.mark_id = m.id
        )
    ) AS unmade
  FROM asked m
    JOIN birth b ON b.id = m.birth_event
`;

/** Most of ten thousand marks have none: they share this. */
const NO_FACTS: FactValues = {};

/** Columns that are told behind the lock, where only which mark it is was asked. */
const TOLD_LATER: Omit<Columns<MarkRow>, (typeof WHICH)[number]> = {
  state: [],
  expires_on: [],
  made_on: [],
  retest_on: [],
  supplier_number: [],
  facts: [],
  born_on: [],
  unmade: []
};

function asKnown(asked: Columns<MarkRow>): KnownMark[] {
  const read = { ...TOLD_LATER, ...asked };
  return read.id.map((id, at) => ({
    id,
    productId: read.product_id[at]!,
    kind: read.kind[at]!,
    number: read.number[at]!,
    lotId: read.lot_id[at]!,
    state: read.state[at]!,
    expires: read.expires_on[at]!,
    made: read.made_on[at]!,
    retest: read.retest_on[at]!,
    supplierNumber: read.supplier_number[at]!,
    facts: read.facts[at] ?? NO_FACTS,
    bornOn: read.born_on[at]!,
    ...(read.unmade[at] ? { unmade: true } : {})
  }));
}
