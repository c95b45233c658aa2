import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readUnitPage } from '$lib/server/shipping/units.ts';

export const GET: RequestHandler = ({ params }) =>
  answering(async () =>
    jsonResponse(
      (await readUnitPage(db(), params.sscc)) ?? notFound('carton or pallet', params.sscc)
    )
  );
