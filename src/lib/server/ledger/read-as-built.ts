import type { MarkKind } from '../../core/catalogue/marking.ts';
import { groupBy } from '../../core/group-by.ts';
import { findMark } from '../../core/ledger/lookup.ts';
import type { NamedMarks } from '../../core/ledger/request.ts';
import {
  codeKey,
  type KnownProduct,
  type MarkIndex,
  type PartInside
} from '../../core/ledger/snapshot.ts';
import { quantity } from '../../core/quantity/quantity.ts';
import type { Tx } from '../kernel/db/client.ts';
import { idList } from '../kernel/db/id-list.ts';
import { inColumns } from '../kernel/db/in-columns.ts';

/** The ids of these among the marks that were found. */
export function idsNamed(
  products: ReadonlyMap<string, KnownProduct>,
  named: readonly NamedMarks[],
  marks: MarkIndex
): number[] {
  const idOf = (product: KnownProduct, kind: MarkKind, number: string | undefined) =>
    number === undefined ? [] : (findMark({ marks }, product, kind, number)?.id ?? []);
  return named.flatMap(({ product: code, marks: these }) => {
    const product = products.get(codeKey(code));
    if (!product) return [];
    return these.flatMap(({ lot, serial }) =>
      [idOf(product, 'lot', lot), idOf(product, 'serial', serial)].flat()
    );
  });
}

/**
 * What went into each of these marks by what made it and still holds; shared batches by the mark's
 * share.
 * @param ever also what came out again
 */
export async function readAsBuilt(
  tx: Tx,
  ids: readonly number[],
  ever: boolean
): Promise<Map<number, PartInside[]>> {
  if (ids.length === 0) return new Map();
  const read = await inColumns<InsideRow>(
    tx,
    ['host', 'mark', 'went_in', 'left', 'made'],
    tx`
      SELECT n.host, n.part AS mark, n.went_in::text, (n.went_in - n.came_out)::text AS left,
        n.made::text
      FROM insides_of(
        ${idList(ids)}::text::bigint[],
          array_fill(NULL::bigint, ARRAY[${ids.length}::int])
      ) n
      WHERE ${ever} OR n.went_in > n.came_out
    `
  );
  const partAt = (at: number): PartInside => ({
    mark: read.mark[at]!,
    wentIn: quantity(read.went_in[at]!),
    left: quantity(read.left[at]!),
    made: quantity(read.made[at]!)
  });
  const byHost = groupBy(read.host.keys(), (at) => read.host[at]!);
  return new Map([...byHost].map(([host, rows]) => [host, rows.map(partAt)]));
}

interface InsideRow {
  host: number;
  mark: number;
  went_in: string;
  left: string;
  made: string;
}
