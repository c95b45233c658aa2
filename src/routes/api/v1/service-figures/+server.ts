import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { today } from '$lib/server/kernel/clock.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { keptFigures, readFigures } from '$lib/server/service/figures.ts';
import { FiguresQuery } from '$lib/server/service/schemas.ts';

/**
 * Turnaround, repeats, and what fails, by fault, product, lot, supplier and age; `asOf` says when that
 * was worked out.
 */
export const GET: RequestHandler = ({ url }) =>
  answering(async () => {
    const asked = readQuery(url, FiguresQuery);
    const kept = await keptFigures(db(), asked, today());
    const figures = kept.answer ?? (await readFigures(db(), asked, today()));
    return jsonResponse({ ...figures, asOf: kept.at ?? new Date().toISOString() });
  });
