import { db } from '$lib/server/db/client';
import { jsonResponse } from '$lib/server/api/answer';

/** 200 only when the database answers. */
export const GET = async () => {
  try {
    await Promise.race([db()`SELECT 1`, new Promise((_, fail) => setTimeout(() => fail(new Error('late')), 3000).unref())]);
    return jsonResponse({ status: 'up' });
  } catch {
    return jsonResponse({ status: 'down', message: 'The database does not answer.' }, 503);
  }
};
