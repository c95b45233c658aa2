import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { db } from '$lib/server/db/client';
import { find } from '$lib/server/reading/find';

export const GET: RequestHandler = ({ url }) =>
  answering(async () => {
    const text = (url.searchParams.get('q') ?? '').slice(0, 300);
    return jsonResponse({
      hits: text.trim() === '' ? [] : await find(db(), text, new Date().toISOString().slice(0, 10))
    });
  });
