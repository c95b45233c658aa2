import type { PageServerLoad } from './$types';
import { troublesOf } from '$lib/core/operating/troubles.ts';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { keptAudit } from '$lib/server/trace/loose-ends.ts';
import { readFirstRun } from '$lib/server/frame/first-run.ts';
import { readStanding } from '$lib/server/operating/standing.ts';
import { readToday } from '$lib/server/frame/today.ts';
import { readTourLot } from '$lib/server/frame/tour-lot.ts';

export const load: PageServerLoad = async ({ locals, parent }) => {
  const { today } = await parent();
  const { roles, personId } = locals.actor!;
  const [screen, steps, standing, tourLot] = await Promise.all([
    readToday(db(), today, personId),
    readFirstRun(db()),
    mayDo(roles, 'read.security') ? readStanding(db()) : null,
    readTourLot(db())
  ]);
  // The day's first look runs the audit behind it: nobody waits for it, and the trend has its
  // point.
  if (screen.trend.at(-1)?.day !== today) void keptAudit(db(), today).catch(() => {});
  return {
    ...screen,
    tourLot,
    troubles: standing ? troublesOf(standing) : [],
    firstRun: steps?.map(({ right, ...step }) => ({ ...step, mine: mayDo(roles, right) })) ?? null,
    mine: {
      receive: mayDo(roles, 'book.receive'),
      build: mayDo(roles, 'book.build'),
      ship: mayDo(roles, 'book.ship')
    }
  };
};
