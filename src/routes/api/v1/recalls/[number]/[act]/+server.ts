import type { RequestEvent } from '@sveltejs/kit';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { idempotencyKey, readBody } from '$lib/server/http/read-body.ts';
import {
  RecallAnswers,
  RecallBeyondTime,
  RecallClosing,
  RecallNotices,
  RecallRelated,
  RecallReminding,
  RecallScope,
  RecallSignature,
  RecallSuspects,
  RecallWords
} from '$lib/server/recall/schemas.ts';
import { Problem } from '$lib/server/kernel/problem.ts';
import {
  addSuspects,
  closeRecall,
  decideScope,
  goBeyondTime,
  relateRecall,
  remindAfter,
  signRecall
} from '$lib/server/recall/write-recall.ts';
import { putWords } from '$lib/server/recall/case-words.ts';
import { sendNotices, sendReminders } from '$lib/server/recall/notices.ts';
import { recordAnswers } from '$lib/server/recall/record-answers.ts';
import { holdScope } from '$lib/server/recall/hold-scope.ts';
import { db } from '$lib/server/kernel/db/client.ts';

type Act = (event: RequestEvent, number: string) => Promise<object>;
const done = async (work: Promise<void>): Promise<object> => {
  await work;
  return { done: true };
};

/** Letters take a key, as they were sent without one before. */
const keyOf = (request: Request): string | null =>
  request.headers.has('idempotency-key') ? idempotencyKey(request) : null;

/** What can be done on a case; each is safe to send twice. */
const ACTS: Record<string, Act> = {
  suspects: async ({ request, locals }, number) => {
    const { marks, why } = await readBody(request, RecallSuspects);
    return done(addSuspects(db(), locals.actor!, number, marks, why));
  },
  scope: async ({ request, locals }, number) => {
    // A body says only who signed: it was sent without one before.
    const hasBody = request.headers.has('content-type');
    const { signature } = hasBody ? await readBody(request, RecallScope) : {};
    return decideScope(db(), locals.actor!, number, signature);
  },
  words: async ({ request, locals }, number) =>
    done(putWords(db(), locals.actor!, number, await readBody(request, RecallWords))),
  'beyond-time': async ({ request, locals }, number) => {
    const { beyond } = await readBody(request, RecallBeyondTime);
    return done(goBeyondTime(db(), locals.actor!, number, beyond));
  },
  hold: ({ request, locals }, number) =>
    holdScope(db(), locals.actor!, number, idempotencyKey(request)),
  notices: async ({ request, locals }, number) => {
    const { partners = null } = await readBody(request, RecallNotices);
    return sendNotices(db(), locals.actor!, number, partners, keyOf(request));
  },
  reminders: async ({ request, locals }, number) => {
    const { partners = null } = await readBody(request, RecallNotices);
    return sendReminders(db(), locals.actor!, number, partners, keyOf(request));
  },
  reminding: async ({ request, locals }, number) => {
    const { days } = await readBody(request, RecallReminding);
    return done(remindAfter(db(), locals.actor!, number, days));
  },
  answers: async ({ request, locals }, number) => {
    const key = idempotencyKey(request);
    return recordAnswers(
      db(),
      locals.actor!,
      number,
      key,
      (await readBody(request, RecallAnswers)).answers
    );
  },
  signature: async ({ request, locals }, number) =>
    signRecall(db(), locals.actor!, number, (await readBody(request, RecallSignature)).password),
  closing: async ({ request, locals }, number) =>
    closeRecall(
      db(),
      locals.actor!,
      number,
      (await readBody(request, RecallClosing)).reason ?? null,
      new Date()
    ),
  related: async ({ request, locals }, number) =>
    done(relateRecall(db(), locals.actor!, number, (await readBody(request, RecallRelated)).other))
};

export const PUT = (event: RequestEvent) =>
  answering(async () => {
    const named = event.params.act ?? '';
    const act = Object.hasOwn(ACTS, named) ? ACTS[named] : undefined;
    if (!act)
      throw new Problem(404, 'That cannot be done on a case', [
        {
          code: 'request.malformed',
          path: 'act',
          message: `Use one of ${Object.keys(ACTS).join(', ')}.`
        }
      ]);
    return jsonResponse(await act(event, event.params.number!));
  });
