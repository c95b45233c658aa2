import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { notFound } from '$lib/server/booking/problem';
import { db } from '$lib/server/db/client';
import { readUnitPage } from '$lib/server/reading/units';

export const GET: RequestHandler = ({ params }) =>
  answering(async () =>
    jsonResponse(
      (await readUnitPage(db(), params.sscc)) ?? notFound('carton or pallet', params.sscc)
    )
  );
