import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readRecall } from '$lib/server/recall/read-recall.ts';

export const GET: RequestHandler = ({ params }) =>
  answering(async () =>
    jsonResponse(
      (await readRecall(db(), params.number, new Date())) ?? notFound('recall', params.number)
    )
  );
