import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import {
  putAccessSettings,
  readAccessSettings
} from '$lib/server/people/account/access-settings.ts';
import { AccessSettings } from '$lib/server/people/schemas.ts';

export const GET: RequestHandler = () =>
  answering(async () => jsonResponse(await readAccessSettings(db())));

export const PUT: RequestHandler = ({ request }) =>
  answering(async () => {
    const given = await readBody(request, AccessSettings);
    await putAccessSettings(db(), given);
    return jsonResponse(given);
  });
