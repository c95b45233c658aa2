import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { readNames } from '$lib/server/catalogue/read-catalogue.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readCountHead } from '$lib/server/stock/counts/count-head.ts';
import { readCountLines } from '$lib/server/stock/counts/count-lines.ts';
import { isHidden, shownLines } from '$lib/server/stock/counts/read-count.ts';

export const load: PageServerLoad = async ({ params, locals }) => {
  const { roles } = locals.actor!;
  const head = await readCountHead(db(), params.document);
  const [lines, names] = await Promise.all([readCountLines(db(), head), readNames(db())]);
  const mayApprove = mayDo(roles, 'book.correct');
  const hidden = isHidden(head);
  return {
    head,
    hidden,
    // Of a blind count nothing of what should be there goes to the browser of who counts.
    lines: shownLines(head, lines).map((line) =>
      hidden ? { ...line, expected: '0', seen: null, elsewhere: null } : line
    ),
    off:
      mayApprove && head.state === 'open'
        ? lines.filter((line) => line.counted !== null && line.counted !== line.seen)
        : [],
    products: names.products,
    mayCount: mayDo(roles, 'count') && head.state === 'open',
    mayApprove: mayApprove && head.state === 'open'
  };
};
