import type { PageServerLoad } from './$types';
import { HOOK_TYPES } from '$lib/core/hooks/hook-types.ts';
import { readDeliveries, readHooks } from '$lib/server/hooks/hooks.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';

export const load: PageServerLoad = async ({ url }) => {
  const hooks = await readHooks(db());
  const asked = rowId(url.searchParams.get('hook'));
  const shown = hooks.find(({ id }) => id === asked) ?? hooks[0] ?? null;
  return {
    hooks,
    types: HOOK_TYPES,
    shown,
    messages: shown ? await readDeliveries(db(), shown.id) : null
  };
};
