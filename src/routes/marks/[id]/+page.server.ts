import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { readMarkQuality } from '$lib/server/catalogue/verdicts-of-mark.ts';
import { certificatesOfMark } from '$lib/server/quality/certificates-of.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readUnnumbered } from '$lib/server/stock/unnumbered.ts';
import { company } from '$lib/server/catalogue/company.ts';
import { readMarkCosts } from '$lib/server/stock/costs/read-mark-costs.ts';
import { readMarkPage } from '$lib/server/stock/mark-page.ts';
import { listJobsOf } from '$lib/server/service/list-jobs.ts';
import { readSalesOf } from '$lib/server/shipping/sales.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';

export const load: PageServerLoad = async ({ params, locals }) => {
  const id = rowId(params.id);
  const page = id !== null ? await readMarkPage(db(), id) : null;
  if (!page) error(404, 'There is no such mark. Scan its number above.');
  const [quality, certificates] = await Promise.all([
    readMarkQuality(db(), page.mark, locals.actor!.personId),
    certificatesOfMark(db(), page.mark.id)
  ]);
  const seesCosts = mayDo(locals.actor!.roles, 'see.costs');
  const [costs, { currency }] = await Promise.all([
    seesCosts ? readMarkCosts(db(), page.mark.id) : null,
    company(db())
  ]);
  const sales = page.mark.kind === 'bulk' ? [] : await readSalesOf(db(), page.mark.id);
  const jobs = page.mark.kind === 'serial' ? await listJobsOf(db(), page.mark.id) : [];
  return {
    ...page,
    jobs,
    mayServe: mayDo(locals.actor!.roles, 'service'),
    sales,
    costs,
    currency,
    mayRevalue: seesCosts && mayDo(locals.actor!.roles, 'book.revalue'),
    mayRecall: mayDo(locals.actor!.roles, 'recall'),
    mayReturn: mayDo(locals.actor!.roles, 'book.return'),
    quality,
    certificates,
    mayTest: mayDo(locals.actor!.roles, 'test'),
    mayCertify: mayDo(locals.actor!.roles, 'certify'),
    mayProve: mayDo(locals.actor!.roles, 'see.costs'),
    mayDecide: mayDo(locals.actor!.roles, 'decide.quality'),
    mayCorrect: mayDo(locals.actor!.roles, 'book.scrap'),
    mayRepack: mayDo(locals.actor!.roles, 'book.repack'),
    mayAmend: mayDo(locals.actor!.roles, 'amend'),
    mayIdentify: mayDo(locals.actor!.roles, 'book.identify'),
    unnumbered:
      page.mark.kind !== 'serial' &&
      (await readUnnumbered(db(), { product: page.mark.product, mark: page.mark.id })).total > 0
  };
};
