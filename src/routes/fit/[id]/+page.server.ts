import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readAsBuilt } from '$lib/server/trace/as-built.ts';
import { listPlaces } from '$lib/server/catalogue/read-catalogue.ts';
import { whereItLies } from '$lib/server/stock/where-it-lies.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';

export const load: PageServerLoad = async ({ params, locals, url }) => {
  // In the course of a service job it is booked by the right of service, and kept with the job.
  const job = url.searchParams.get('job');
  const id = rowId(params.id);
  const record = id === null ? null : await readAsBuilt(db(), id, { as: 'is' });
  if (!record || record.mark.kind !== 'serial')
    error(404, 'There is no such unit. Scan its serial above.');
  const [places, lies] = await Promise.all([listPlaces(db()), whereItLies(db(), record.mark.id)]);
  return {
    mark: record.mark,
    lies,
    parts: record.lines.filter((line) => line.level === 1 && line.mark !== null),
    places,
    job,
    mayFit: mayDo(locals.actor!.roles, job === null ? 'book.repack' : 'service')
  };
};
