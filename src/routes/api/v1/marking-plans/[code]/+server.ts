import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { MarkingPlan } from '$lib/server/catalogue/schemas.ts';
import { putPlan, readChangeablePlan } from '$lib/server/catalogue/plans.ts';
import { asAsked } from '$lib/server/kernel/db/preconditions.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const PUT: RequestHandler = ({ params: { code }, request, locals }) =>
  answering(async () => {
    const body = await readBody(request, MarkingPlan);
    const { created, ...answer } = await asAsked(db(), request, {
      ...{ what: 'plan', code },
      read: (tx) => readChangeablePlan(tx, code),
      keep: (tx) => putPlan(tx, locals.actor!, code, body)
    });
    return jsonResponse(answer, created ? 201 : 200);
  });
