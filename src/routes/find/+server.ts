import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { findAct } from '$lib/server/frame/find-acts.ts';
import { find } from '$lib/server/frame/find.ts';
import { findDocument } from '$lib/server/frame/find-document.ts';
import { today } from '$lib/server/kernel/clock.ts';

/**
 * What a text can mean; with `only=document` whether it is exactly the number of a document, or an
 * act that can be meant one way.
 */
export const GET: RequestHandler = ({ url, locals }) =>
  answering(async () => {
    const text = (url.searchParams.get('q') ?? '').slice(0, 300).trim();
    const { roles } = locals.actor!;
    if (url.searchParams.get('only') === 'document') {
      const [document, act] = await Promise.all([
        findDocument(db(), text),
        findAct(db(), text, roles)
      ]);
      return jsonResponse({ document: document ?? act });
    }
    if (text === '') return jsonResponse({ hits: [] });
    const here = (url.searchParams.get('at') ?? '/').slice(0, 300);
    return jsonResponse({ hits: await find(db(), text, { today: today(), roles, here }) });
  });
