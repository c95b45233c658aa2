import type { PageServerLoad } from './$types';
import { changeableRoute, readRoutes } from '$lib/server/catalogue/routes.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { tagOf } from '$lib/server/kernel/db/entity-tag.ts';

export const load: PageServerLoad = async () => ({
  routes: (await readRoutes(db())).map((route) => ({
    ...route,
    tag: tagOf(changeableRoute(route))
  }))
});
