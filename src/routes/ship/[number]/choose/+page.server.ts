import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { CHOICE_RULES, type ChoiceRule } from '$lib/core/shipping/propose.ts';
import { mayDo } from '$lib/core/people/rights.ts';
import { Problem } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readDraft } from '$lib/server/ledger/drafts.ts';
import { readOrder } from '$lib/server/orders/read-orders.ts';
import { readProposal } from '$lib/server/shipping/proposal.ts';

export const load: PageServerLoad = async ({ params, url, locals, parent }) => {
  const { today } = await parent();
  const rule =
    CHOICE_RULES.find((one) => one === url.searchParams.get('rule')) ??
    ('first expired' satisfies ChoiceRule);
  try {
    const [order, proposal, draft] = await Promise.all([
      readOrder(db(), 'sales', params.number),
      readProposal(db(), params.number, rule, {}, today),
      readDraft(db(), locals.actor!.personId, `ship ${params.number}`)
    ]);
    const roles = locals.actor!.roles;
    return {
      order: order!,
      proposal,
      rule,
      draft: draft.body as { lines?: Record<string, Record<string, string>[]> } | null,
      mayPromise: mayDo(roles, 'promise'),
      mayShip: mayDo(roles, 'book.ship')
    };
  } catch (problem) {
    if (problem instanceof Problem && problem.status === 404)
      error(404, `There is no sales order ${params.number}.`);
    throw problem;
  }
};
