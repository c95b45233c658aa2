import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { Partner } from '$lib/server/catalogue/schemas.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { putPartner, readPartner } from '$lib/server/catalogue/partners-places.ts';
import { onlyNew } from '$lib/server/kernel/db/only-new.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const PUT: RequestHandler = ({ params, request }) =>
  answering(async () => {
    const body = await readBody(request, Partner);
    const { partner, created } = await onlyNew(db(), request, 'partner', params.code, () =>
      putPartner(db(), params.code, body)
    );
    return jsonResponse(partner, created ? 201 : 200);
  });

export const GET: RequestHandler = ({ params }) =>
  answering(async () =>
    jsonResponse((await readPartner(db(), params.code)) ?? notFound('partner', params.code))
  );
