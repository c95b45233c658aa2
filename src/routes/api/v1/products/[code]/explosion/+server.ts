import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { ExplosionQuery } from '$lib/server/catalogue/schemas.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readExplosion } from '$lib/server/catalogue/explosion.ts';
import { today } from '$lib/server/kernel/clock.ts';

export const GET: RequestHandler = ({ params, url }) =>
  answering(async () => {
    const { quantity, day } = readQuery(url, ExplosionQuery);
    return jsonResponse(await readExplosion(db(), params.code, quantity, day ?? today()));
  });
