import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readPlans } from '$lib/server/catalogue/plans';
import { db } from '$lib/server/db/client';

export const GET: RequestHandler = () =>
  answering(async () => jsonResponse({ plans: await readPlans(db()) }));
