import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { today } from '$lib/server/kernel/clock.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readFigures } from '$lib/server/service/figures.ts';
import { FiguresQuery } from '$lib/server/service/schemas.ts';

/** Turnaround, repeats, and what fails, by fault, product, lot, supplier and age. */
export const GET: RequestHandler = ({ url }) =>
  answering(async () =>
    jsonResponse(await readFigures(db(), readQuery(url, FiguresQuery), today()))
  );
