import type { RequestHandler } from './$types';
import { answering, recordResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { Partner } from '$lib/server/catalogue/schemas.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { putPartner, readPartner } from '$lib/server/catalogue/partners-places.ts';
import { asAsked } from '$lib/server/kernel/db/preconditions.ts';
import { tagOf } from '$lib/server/kernel/db/entity-tag.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const PUT: RequestHandler = ({ params: { code }, request }) =>
  answering(async () => {
    const body = await readBody(request, Partner);
    const { partner, created } = await asAsked(db(), request, {
      ...{ what: 'partner', code },
      read: (tx) => readPartner(tx, code),
      keep: (tx) => putPartner(tx, code, body)
    });
    return recordResponse(partner, tagOf(partner), created ? 201 : 200);
  });

export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const partner = (await readPartner(db(), params.code)) ?? notFound('partner', params.code);
    return recordResponse(partner, tagOf(partner));
  });
