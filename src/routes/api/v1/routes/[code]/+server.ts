import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { Route } from '$lib/server/api/schemas';
import { notFound } from '$lib/server/booking/problem';
import { putRoute, readRoutes } from '$lib/server/catalogue/routes';
import { db } from '$lib/server/db/client';

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
    const { route, created } = await putRoute(db(), params.code, await readBody(request, Route));
    return jsonResponse(route, created ? 201 : 200);
  });
