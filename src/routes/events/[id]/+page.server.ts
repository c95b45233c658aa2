import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { db } from '$lib/server/db/client';
import { readEventPage } from '$lib/server/reading/event-page';

export const load: PageServerLoad = async ({ params }) => {
  const event = /^\d{1,15}$/.test(params.id) ? await readEventPage(db(), Number(params.id)) : null;
  if (!event) error(404, 'There is no such event. Scan its document above.');
  return { event };
};
