import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readAsBuilt } from '$lib/server/trace/as-built.ts';
import { productsNamed } from '$lib/server/catalogue/find-choices.ts';
import { listPlaces } from '$lib/server/catalogue/read-catalogue.ts';
import { whereItLies } from '$lib/server/stock/where-it-lies.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';

export const load: PageServerLoad = async ({ params, locals }) => {
  const id = rowId(params.id);
  const record = id === null ? null : await readAsBuilt(db(), id, { as: 'is' });
  if (!record || record.mark.kind === 'bulk')
    error(404, 'There is no such unit. Scan its number above.');
  const [places, products, lies] = await Promise.all([
    listPlaces(db()),
    productsNamed(
      db(),
      record.lines.map((line) => line.product)
    ),
    whereItLies(db(), record.mark.id)
  ]);
  return {
    mark: record.mark,
    onHand: record.onHand,
    lies,
    parts: record.lines.filter((line) => line.level === 1),
    places,
    products,
    mayTear: mayDo(locals.actor!.roles, 'book.repack')
  };
};
