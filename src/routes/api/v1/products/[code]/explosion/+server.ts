import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readQuery } from '$lib/server/api/read-body';
import { ExplosionQuery } from '$lib/server/api/schemas';
import { db } from '$lib/server/db/client';
import { readExplosion } from '$lib/server/reading/explosion';
import { today } from '$lib/server/today';

export const GET: RequestHandler = ({ params, url }) =>
  answering(async () => {
    const { quantity, day } = readQuery(url, ExplosionQuery);
    return jsonResponse(await readExplosion(db(), params.code, quantity, day ?? today()));
  });
