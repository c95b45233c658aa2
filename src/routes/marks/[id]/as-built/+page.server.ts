import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { readMarkings } from '$lib/server/catalogue/read-catalogue.ts';
import { whereItLies } from '$lib/server/stock/where-it-lies.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readAsBuilt } from '$lib/server/trace/as-built.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';

export const load: PageServerLoad = async ({ params, locals }) => {
  const id = rowId(params.id);
  const record = id === null ? null : await readAsBuilt(db(), id);
  if (!record) error(404, 'There is no such mark. Scan its number above.');
  const codes = record.lines.flatMap((line) =>
    line.level === 1 && line.mark === null ? [line.product] : []
  );
  return {
    record,
    // For putting in what is missing.
    lies: await whereItLies(db(), record.mark.id),
    markings: await readMarkings(db(), codes),
    mayBuild: mayDo(locals.actor!.roles, 'book.build')
  };
};
