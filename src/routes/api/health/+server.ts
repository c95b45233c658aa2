import { db } from '$lib/server/kernel/db/client.ts';
import { requireAlive } from '$lib/server/kernel/db/alive.ts';
import { jsonResponse } from '$lib/server/http/answer.ts';
import { engineOf } from '$lib/server/trace/engine/engines.ts';

/**
 * 200 only when the database answers. `index` says whether traces are answered from memory
 * (`ready`) or from the database (`starting`, `off`).
 */
export const GET = async () => {
  try {
    await requireAlive(db());
    return jsonResponse({ status: 'up', index: engineOf(db())?.status().state ?? 'off' });
  } catch {
    return jsonResponse({ status: 'down', message: 'The database does not answer.' }, 503);
  }
};
