import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { MarkingPlan } from '$lib/server/catalogue/schemas.ts';
import { putPlan } from '$lib/server/catalogue/plans.ts';
import { onlyNew } from '$lib/server/kernel/db/only-new.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const PUT: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const body = await readBody(request, MarkingPlan);
    const { created, ...answer } = await onlyNew(db(), request, 'plan', params.code, () =>
      putPlan(db(), locals.actor!, params.code, body)
    );
    return jsonResponse(answer, created ? 201 : 200);
  });
