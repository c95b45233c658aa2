import { today } from '$lib/server/kernel/clock.ts';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readSchemes } from '$lib/server/catalogue/numbering.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const GET = () =>
  answering(async () => jsonResponse({ schemes: await readSchemes(db(), today()) }));
