import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { find } from '$lib/server/frame/find.ts';
import { findDocument } from '$lib/server/frame/find-document.ts';
import { today } from '$lib/server/kernel/clock.ts';

/** What a text can mean; with `only=document` whether it is exactly the number of a document. */
export const GET: RequestHandler = ({ url }) =>
  answering(async () => {
    const text = (url.searchParams.get('q') ?? '').slice(0, 300).trim();
    if (url.searchParams.get('only') === 'document')
      return jsonResponse({ document: await findDocument(db(), text) });
    return jsonResponse({ hits: text === '' ? [] : await find(db(), text, today()) });
  });
