import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { keepSettings, readSettings } from '$lib/server/service/settings.ts';
import { ServiceSettings } from '$lib/server/service/schemas.ts';

export const GET: RequestHandler = () =>
  answering(async () => jsonResponse(await readSettings(db())));

/** What the public pages say, and what customers are told. */
export const PUT: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    await keepSettings(db(), locals.actor!, await readBody(request, ServiceSettings));
    return jsonResponse(await readSettings(db()));
  });
