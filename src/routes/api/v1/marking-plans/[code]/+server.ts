import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { MarkingPlan } from '$lib/server/api/schemas';
import { putPlan } from '$lib/server/catalogue/plans';
import { db } from '$lib/server/db/client';

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
