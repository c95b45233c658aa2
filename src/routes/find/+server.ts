import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { find } from '$lib/server/frame/find.ts';

export const GET: RequestHandler = ({ url }) =>
  answering(async () => {
    const text = (url.searchParams.get('q') ?? '').slice(0, 300);
    return jsonResponse({
      hits: text.trim() === '' ? [] : await find(db(), text, new Date().toISOString().slice(0, 10))
    });
  });
