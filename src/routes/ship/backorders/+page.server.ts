import type { PageServerLoad } from './$types';
import { db } from '$lib/server/kernel/db/client.ts';
import { readBackorders } from '$lib/server/shipping/sales.ts';
import { today } from '$lib/server/kernel/clock.ts';

export const load: PageServerLoad = async () => ({
  owed: await readBackorders(db(), today()),
  today: today()
});
