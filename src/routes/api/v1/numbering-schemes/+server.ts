import { answering, jsonResponse } from '$lib/server/api/answer';
import { readSchemes } from '$lib/server/catalogue/numbering';
import { db } from '$lib/server/db/client';

export const GET = () =>
  answering(async () =>
    jsonResponse({ schemes: await readSchemes(db(), new Date().toISOString().slice(0, 10)) })
  );
