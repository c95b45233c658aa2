import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/access/rights';
import { db } from '$lib/server/db/client';
import { keepAudit } from '$lib/server/reading/loose-ends';
import { readToday } from '$lib/server/reading/today';

export const load: PageServerLoad = async ({ locals, parent }) => {
  const { today } = await parent();
  const { roles, personId } = locals.actor!;
  const screen = await readToday(db(), today, personId);
  // The day's first look runs the audit behind it: nobody waits for it, and the trend has its
  // point.
  if (screen.trend.at(-1)?.day !== today) void keepAudit(db(), today).catch(() => {});
  return {
    ...screen,
    mine: {
      receive: mayDo(roles, 'book.receive'),
      build: mayDo(roles, 'book.build'),
      ship: mayDo(roles, 'book.ship')
    }
  };
};
