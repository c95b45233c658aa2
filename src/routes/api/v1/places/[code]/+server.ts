import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { Place } from '$lib/server/catalogue/schemas.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { putPlace, readPlace } from '$lib/server/catalogue/partners-places.ts';
import { onlyNew } from '$lib/server/kernel/db/only-new.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const PUT: RequestHandler = ({ params, request }) =>
  answering(async () => {
    const body = await readBody(request, Place);
    const { place, created } = await onlyNew(db(), request, 'place', params.code, () =>
      putPlace(db(), params.code, body)
    );
    return jsonResponse(place, created ? 201 : 200);
  });

export const GET: RequestHandler = ({ params }) =>
  answering(async () =>
    jsonResponse((await readPlace(db(), params.code)) ?? notFound('place', params.code))
  );
