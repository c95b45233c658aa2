import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { readMarkings } from '$lib/server/catalogue/read-catalogue.ts';
import { whereItLies } from '$lib/server/stock/where-it-lies.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { isDay } from '$lib/core/calendar/day.ts';
import { readAsBuilt, type AskedRecord } from '$lib/server/trace/as-built.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';

/** What the address asks: as it was built, as it is now, or as it was on a day. */
function askedOf(url: URL): AskedRecord {
  const day = url.searchParams.get('day') ?? '';
  if (isDay(day)) return { as: 'is', day };
  return { as: url.searchParams.get('as') === 'is' ? 'is' : 'built' };
}

export const load: PageServerLoad = async ({ params, url, locals }) => {
  const id = rowId(params.id);
  const asked = askedOf(url);
  const record = id === null ? null : await readAsBuilt(db(), id, asked);
  if (!record) error(404, 'There is no such mark. Scan its number above.');
  const codes = record.lines.flatMap((line) =>
    line.level === 1 && line.mark === null ? [line.product] : []
  );
  return {
    record,
    asked,
    mayFit: record.mark.kind === 'serial' && mayDo(locals.actor!.roles, 'book.repack'),
    // For putting in what is missing.
    lies: await whereItLies(db(), record.mark.id),
    markings: await readMarkings(db(), codes),
    mayBuild: mayDo(locals.actor!.roles, 'book.build')
  };
};
