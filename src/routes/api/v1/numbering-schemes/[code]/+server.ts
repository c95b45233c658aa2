import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { NumberingScheme } from '$lib/server/catalogue/schemas.ts';
import { putScheme, readChangeableScheme } from '$lib/server/catalogue/numbering.ts';
import { asAsked } from '$lib/server/kernel/db/preconditions.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const PUT: RequestHandler = ({ params: { code }, request }) =>
  answering(async () => {
    const body = await readBody(request, NumberingScheme);
    const { created } = await asAsked(db(), request, {
      ...{ what: 'scheme', code },
      read: (tx) => readChangeableScheme(tx, code),
      keep: (tx) => putScheme(tx, code, body)
    });
    return jsonResponse({ code, ...body }, created ? 201 : 200);
  });
