import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { Person } from '$lib/server/people/schemas.ts';
import { putPerson } from '$lib/server/people/write-people.ts';
import { db } from '$lib/server/kernel/db/client.ts';

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
