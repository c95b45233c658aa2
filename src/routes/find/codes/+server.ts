import type { RequestHandler } from './$types';
import { CHOICES } from '$lib/core/catalogue/choice.ts';
import { findChoices } from '$lib/server/catalogue/find-choices.ts';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { Problem } from '$lib/server/kernel/problem.ts';

/** What a few letters may mean where a code is asked for: `of` says of what, `q` the letters. */
export const GET: RequestHandler = ({ url }) =>
  answering(async () => {
    const asked = url.searchParams.get('of');
    const of = CHOICES.find((one) => one === asked);
    if (!of) throw new Problem(400, `“of” must be one of ${CHOICES.join(', ')}.`);
    const text = (url.searchParams.get('q') ?? '').slice(0, 100).trim();
    return jsonResponse(await findChoices(db(), of, text));
  });
