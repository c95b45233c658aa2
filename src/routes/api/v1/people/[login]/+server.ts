import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { Person } from '$lib/server/people/schemas.ts';
import { putPerson, readChangeablePerson } from '$lib/server/people/write-people.ts';
import { asAsked } from '$lib/server/kernel/db/preconditions.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const PUT: RequestHandler = ({ params: { login }, request, locals }) =>
  answering(async () => {
    const body = await readBody(request, Person);
    const { created } = await asAsked(db(), request, {
      ...{ what: 'person', code: login },
      read: (tx) => readChangeablePerson(tx, login),
      keep: (tx) => putPerson(tx, locals.actor, login, body)
    });
    return jsonResponse({ login }, created ? 201 : 200);
  });
