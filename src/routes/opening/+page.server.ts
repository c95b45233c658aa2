import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readDraft } from '$lib/server/ledger/drafts.ts';

export const load: PageServerLoad = async ({ locals }) => {
  const { roles, personId } = locals.actor!;
  const draft = await readDraft(db(), personId, 'opening');
  return { draft, mayBook: mayDo(roles, 'book.opening') };
};
