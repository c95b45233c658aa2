import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { Person } from '$lib/server/people/schemas.ts';
import { putPerson } from '$lib/server/people/write-people.ts';
import { onlyNew } from '$lib/server/kernel/db/only-new.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const PUT: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const body = await readBody(request, Person);
    const { created } = await onlyNew(db(), request, 'person', params.login, () =>
      putPerson(db(), locals.actor, params.login, body)
    );
    return jsonResponse({ login: params.login }, created ? 201 : 200);
  });
