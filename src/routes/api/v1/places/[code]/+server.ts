import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { Place } from '$lib/server/api/schemas';
import { notFound } from '$lib/server/booking/problem';
import { putPlace, readPlace } from '$lib/server/catalogue/partners-places';
import { db } from '$lib/server/db/client';

export const PUT: RequestHandler = ({ params, request }) =>
  answering(async () => {
    const { place, created } = await putPlace(db(), params.code, await readBody(request, Place));
    return jsonResponse(place, created ? 201 : 200);
  });

export const GET: RequestHandler = ({ params }) =>
  answering(async () =>
    jsonResponse((await readPlace(db(), params.code)) ?? notFound('place', params.code))
  );
