import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { Person } from '$lib/server/api/schemas';
import { putPerson } from '$lib/server/catalogue/people';
import { db } from '$lib/server/db/client';

export const PUT: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const { created } = await putPerson(
      db(),
      locals.actor,
      params.login,
      await readBody(request, Person)
    );
    return jsonResponse({ login: params.login }, created ? 201 : 200);
  });
