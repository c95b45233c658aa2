import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { rightsToTakeBack } from '$lib/core/ledger/taking-back/right-to-take-back.ts';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { certificatesOfEvent } from '$lib/server/quality/certificates-of.ts';
import { readEventPage, type EventPage } from '$lib/server/ledger/event-page.ts';
import { COME_IN } from '$lib/core/stock/costs/revaluing.ts';
import { readEventCosts } from '$lib/server/stock/costs/read-event-costs.ts';
import { HANDED_OVER, MAY_SIGN, readGlassSignature } from '$lib/server/ledger/glass-signature.ts';
import { readSigned } from '$lib/server/people/signatures.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';

/** Whether anything of an event can still be taken back. */
const isOpen = ({ openCount, packings, reversedBy }: EventPage): boolean =>
  openCount > 0 || (packings.length > 0 && reversedBy.length === 0);

export const load: PageServerLoad = async ({ params, locals }) => {
  const id = rowId(params.id);
  const event = id !== null ? await readEventPage(db(), id) : null;
  if (!event) error(404, 'There is no such event. Scan its document above.');
  const { roles } = locals.actor!;
  const changedHands = HANDED_OVER.has(event.kind);
  return {
    event,
    signed: changedHands ? await readGlassSignature(db(), event.id) : null,
    maySign: changedHands && MAY_SIGN.some((right) => mayDo(roles, right)),
    costs: mayDo(roles, 'see.costs') ? await readEventCosts(db(), event.id) : null,
    signatures: await readSigned(db(), { event: event.id }),
    mayProve: mayDo(roles, 'see.costs'),
    mayRevalue: COME_IN.has(event.kind) && event.openCount > 0 && mayDo(roles, 'book.revalue'),
    mayCertify: event.kind === 'ship' && mayDo(roles, 'certify'),
    certificates: await certificatesOfEvent(db(), event.id),
    mayReverse:
      isOpen(event) &&
      mayDo(roles, 'book.reverse') &&
      rightsToTakeBack(event.kind).some((right) => mayDo(roles, right))
  };
};
