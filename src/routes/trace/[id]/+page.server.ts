import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { db } from '$lib/server/db/client';
import { readNames } from '$lib/server/reading/catalogue';
import { traceMark } from '$lib/server/reading/trace';
import { rowId } from '$lib/server/row-id';

const VIEWS = ['river', 'outline', 'table'] as const;

export const load: PageServerLoad = async ({ params, url }) => {
  const direction = url.searchParams.get('direction') === 'upstream' ? 'upstream' as const : 'downstream' as const;
  const id = rowId(params.id);
  const trace = id !== null ? await traceMark(db(), id, direction) : null;
  if (!trace) error(404, 'There is no such mark. Scan its number above.');
  const view = VIEWS.find((one) => one === url.searchParams.get('view')) ?? 'river';
  return { trace, view, ...(await readNames(db())) };
};
