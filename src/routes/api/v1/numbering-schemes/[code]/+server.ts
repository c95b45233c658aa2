import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { NumberingScheme } from '$lib/server/catalogue/schemas.ts';
import { putScheme } from '$lib/server/catalogue/numbering.ts';
import { onlyNew } from '$lib/server/kernel/db/only-new.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const PUT: RequestHandler = ({ params, request }) =>
  answering(async () => {
    const body = await readBody(request, NumberingScheme);
    const { created } = await onlyNew(db(), request, 'scheme', params.code, () =>
      putScheme(db(), params.code, body)
    );
    return jsonResponse({ code: params.code, ...body }, created ? 201 : 200);
  });
