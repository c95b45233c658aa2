import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { db } from '$lib/server/kernel/db/client.ts';
import { tagOf } from '$lib/server/kernel/db/entity-tag.ts';
import { readPlacePage } from '$lib/server/stock/place-page.ts';

export const load: PageServerLoad = async ({ params }) => {
  const page = await readPlacePage(db(), params.code);
  if (!page) error(404, `There is no place ${params.code}. Check the code.`);
  return { page: { ...page, tag: tagOf(page.place) } };
};
