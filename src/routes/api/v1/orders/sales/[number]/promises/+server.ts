import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { Promises } from '$lib/server/shipping/schemas.ts';
import { promise } from '$lib/server/shipping/promises.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { today } from '$lib/server/kernel/clock.ts';

export const PUT: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const { lines, ...how } = await readBody(request, Promises);
    return jsonResponse(
      await promise(db(), locals.actor!, params.number, lines, { ...how, day: today() })
    );
  });
