import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { makeHook, readHooks } from '$lib/server/hooks/hooks.ts';
import { NewHook } from '$lib/server/hooks/schemas.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const GET: RequestHandler = () =>
  answering(async () => jsonResponse({ hooks: await readHooks(db()) }));

export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () =>
    jsonResponse(await makeHook(db(), locals.actor!, await readBody(request, NewHook)), 201)
  );
