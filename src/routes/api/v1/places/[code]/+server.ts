import type { RequestHandler } from './$types';
import { answering, recordResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { Place } from '$lib/server/catalogue/schemas.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { putPlace, readPlace } from '$lib/server/catalogue/partners-places.ts';
import { asAsked } from '$lib/server/kernel/db/preconditions.ts';
import { tagOf } from '$lib/server/kernel/db/entity-tag.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const PUT: RequestHandler = ({ params: { code }, request }) =>
  answering(async () => {
    const body = await readBody(request, Place);
    const { place, created } = await asAsked(db(), request, {
      ...{ what: 'place', code },
      read: (tx) => readPlace(tx, code),
      keep: (tx) => putPlace(tx, code, body)
    });
    return recordResponse(place, tagOf(place), created ? 201 : 200);
  });

export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const place = (await readPlace(db(), params.code)) ?? notFound('place', params.code);
    return recordResponse(place, tagOf(place));
  });
