import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readPlans } from '$lib/server/catalogue/plans.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const GET: RequestHandler = () =>
  answering(async () => jsonResponse({ plans: await readPlans(db()) }));
