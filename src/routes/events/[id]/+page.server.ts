import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { certificatesOfEvent } from '$lib/server/quality/certificates-of.ts';
import { readEventPage } from '$lib/server/ledger/event-page.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';

export const load: PageServerLoad = async ({ params, locals }) => {
  const id = rowId(params.id);
  const event = id !== null ? await readEventPage(db(), id) : null;
  if (!event) error(404, 'There is no such event. Scan its document above.');
  return {
    event,
    mayCertify: event.kind === 'ship' && mayDo(locals.actor!.roles, 'certify'),
    certificates: await certificatesOfEvent(db(), event.id),
    mayReverse: mayDo(locals.actor!.roles, 'book.reverse')
  };
};
