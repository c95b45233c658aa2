import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { MarkingPlan } from '$lib/server/catalogue/schemas.ts';
import { putPlan } from '$lib/server/catalogue/plans.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const PUT: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const { created, ...answer } = await putPlan(
      db(),
      locals.actor!,
      params.code,
      await readBody(request, MarkingPlan)
    );
    return jsonResponse(answer, created ? 201 : 200);
  });
