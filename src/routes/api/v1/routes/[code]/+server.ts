import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { Route } from '$lib/server/catalogue/schemas.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { putRoute, readRoutes } from '$lib/server/catalogue/routes.ts';
import { onlyNew } from '$lib/server/kernel/db/only-new.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const GET: RequestHandler = ({ params }) =>
  answering(async () =>
    jsonResponse(
      (await readRoutes(db())).find(
        (route) => route.code.toUpperCase() === params.code.toUpperCase()
      ) ?? notFound('route', params.code)
    )
  );

export const PUT: RequestHandler = ({ params, request }) =>
  answering(async () => {
    const body = await readBody(request, Route);
    const { route, created } = await onlyNew(db(), request, 'route', params.code, () =>
      putRoute(db(), params.code, body)
    );
    return jsonResponse(route, created ? 201 : 200);
  });
