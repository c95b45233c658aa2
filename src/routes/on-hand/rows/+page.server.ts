import type { PageServerLoad } from './$types';
import { db } from '$lib/server/kernel/db/client.ts';
import { listPlaces } from '$lib/server/catalogue/read-catalogue.ts';
import { DeskQuery } from '$lib/server/stock/desk/asked.ts';
import { readDesk } from '$lib/server/stock/desk/read-desk.ts';

/** Most rows the screen lists; it says how many there are. */
const MOST = 300;

export const load: PageServerLoad = async ({ url }) => {
  const given = DeskQuery.safeParse(Object.fromEntries(url.searchParams));
  // An address somebody mended by hand shows what can be made of it.
  const asked = given.success ? given.data : DeskQuery.parse({});
  const [desk, places] = await Promise.all([readDesk(db(), asked, MOST), listPlaces(db())]);
  return { ...desk, asked, places };
};
