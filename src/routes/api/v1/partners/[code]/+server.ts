import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { Partner } from '$lib/server/api/schemas';
import { notFound } from '$lib/server/booking/problem';
import { putPartner, readPartner } from '$lib/server/catalogue/partners-places';
import { db } from '$lib/server/db/client';

export const PUT: RequestHandler = ({ params, request }) =>
  answering(async () => {
    const { partner, created } = await putPartner(
      db(),
      params.code,
      await readBody(request, Partner)
    );
    return jsonResponse(partner, created ? 201 : 200);
  });

export const GET: RequestHandler = ({ params }) =>
  answering(async () =>
    jsonResponse((await readPartner(db(), params.code)) ?? notFound('partner', params.code))
  );
