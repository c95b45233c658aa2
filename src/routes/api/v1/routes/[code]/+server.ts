import type { RequestHandler } from './$types';
import { answering, recordResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { Route } from '$lib/server/catalogue/schemas.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import {
  changeableRoute,
  putRoute,
  readChangeableRoute,
  readRoute
} from '$lib/server/catalogue/routes.ts';
import { asAsked } from '$lib/server/kernel/db/preconditions.ts';
import { tagOf } from '$lib/server/kernel/db/entity-tag.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const route = (await readRoute(db(), params.code)) ?? notFound('route', params.code);
    return recordResponse(route, tagOf(changeableRoute(route)));
  });

export const PUT: RequestHandler = ({ params: { code }, request }) =>
  answering(async () => {
    const body = await readBody(request, Route);
    const { route, created } = await asAsked(db(), request, {
      ...{ what: 'route', code },
      read: (tx) => readChangeableRoute(tx, code),
      keep: (tx) => putRoute(tx, code, body)
    });
    return recordResponse(route, tagOf(changeableRoute(route)), created ? 201 : 200);
  });
