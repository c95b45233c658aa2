import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { whereUsed } from '$lib/server/catalogue/bills';
import { db } from '$lib/server/db/client';
import { today } from '$lib/server/today';

export const GET: RequestHandler = ({ params }) =>
  answering(async () =>
    jsonResponse({ product: params.code, usedIn: await whereUsed(db(), params.code, today()) })
  );
