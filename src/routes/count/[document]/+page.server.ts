import type { PageServerLoad } from './$types';
import type { CountLine } from '$lib/core/stock/count-line.ts';
import { mayDo } from '$lib/core/people/rights.ts';
import { readFactsAsked, readNames } from '$lib/server/catalogue/read-catalogue.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { mapListed, type Listed } from '$lib/server/kernel/db/listed.ts';
import { isHidden, readCountHead } from '$lib/server/stock/counts/count-head.ts';
import { readCountLines } from '$lib/server/stock/counts/count-lines.ts';

const NOTHING_OFF: Listed<CountLine> = { rows: [], total: 0 };

export const load: PageServerLoad = async ({ params, locals }) => {
  const { roles } = locals.actor!;
  const head = await readCountHead(db(), params.document);
  const isOpen = head.state === 'open';
  const mayApprove = mayDo(roles, 'book.correct') && isOpen;
  const [lines, off, names, factsAsked] = await Promise.all([
    readCountLines(db(), head),
    mayApprove ? readCountLines(db(), head, 'off') : NOTHING_OFF,
    readNames(db()),
    isOpen ? readFactsAsked(db()) : {}
  ]);
  const hidden = isHidden(head);
  return {
    head,
    hidden,
    // Of a blind count nothing of what should be there goes to the browser of who counts.
    lines: mapListed(lines, (line) =>
      hidden ? { ...line, expected: '0', seen: null, elsewhere: null } : line
    ),
    off,
    products: names.products,
    factsAsked,
    mayCount: mayDo(roles, 'count') && isOpen,
    mayApprove
  };
};
