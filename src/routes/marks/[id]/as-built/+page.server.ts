import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import type { Marking } from '$lib/core/catalogue/marking.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readAsBuilt } from '$lib/server/trace/as-built.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';

export const load: PageServerLoad = async ({ params, locals }) => {
  const id = rowId(params.id);
  const record = id === null ? null : await readAsBuilt(db(), id);
  if (!record) error(404, 'There is no such mark. Scan its number above.');
  // Where it lies, for putting in what is missing.
  const [lies] = await db()<{ code: string }[]>`
    SELECT c.code
    FROM stock s
      JOIN place c ON c.id = s.place_id
    WHERE s.mark_id = ${record.mark.id} AND s.quantity > 0
    LIMIT 1
  `;
  const codes = record.lines.flatMap((line) =>
    line.level === 1 && line.mark === null ? [line.product] : []
  );
  const markings = await db()<
    { code: string; marking: Marking }[]
  >`SELECT code, marking FROM product WHERE code = ANY(${codes})`;
  return {
    record,
    lies: lies?.code ?? null,
    markings: Object.fromEntries(markings.map((row) => [row.code, row.marking])),
    mayBuild: mayDo(locals.actor!.roles, 'book.build')
  };
};
