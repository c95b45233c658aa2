import type { PageServerLoad } from './$types';
import { db } from '$lib/server/db/client';
import { readBackorders } from '$lib/server/reading/sales';
import { today } from '$lib/server/today';

export const load: PageServerLoad = async () => ({
  rows: await readBackorders(db(), today()),
  today: today()
});
