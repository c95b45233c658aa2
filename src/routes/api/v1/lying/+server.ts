import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readLying } from '$lib/server/stock/lying.ts';
import { LyingQuestion } from '$lib/server/stock/schemas.ts';

/** Where things of many numbers lie, or all at a place; nothing is written. */
export const POST: RequestHandler = ({ request }) =>
  answering(async () =>
    jsonResponse(await readLying(db(), await readBody(request, LyingQuestion)))
  );
