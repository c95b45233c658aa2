import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { notFound } from '$lib/server/booking/problem';
import { db } from '$lib/server/db/client';
import { readRecall } from '$lib/server/reading/recall';

export const GET: RequestHandler = ({ params }) =>
  answering(async () =>
    jsonResponse(
      (await readRecall(db(), params.number, new Date())) ?? notFound('recall', params.number)
    )
  );
