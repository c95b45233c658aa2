import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { NumberingScheme } from '$lib/server/api/schemas';
import { putScheme } from '$lib/server/catalogue/numbering';
import { db } from '$lib/server/db/client';

export const PUT: RequestHandler = ({ params, request }) =>
  answering(async () => {
    const body = await readBody(request, NumberingScheme);
    const { created } = await putScheme(db(), params.code, body);
    return jsonResponse({ code: params.code, ...body }, created ? 201 : 200);
  });
