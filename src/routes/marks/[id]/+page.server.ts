import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { verdictOf } from '$lib/core/quality/spec.ts';
import { limitsFor, readSpecs } from '$lib/server/catalogue/specs.ts';
import { countingResults, readTests } from '$lib/server/catalogue/verdicts.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readUnnumbered } from '$lib/server/stock/unnumbered.ts';
import { readMarkPage } from '$lib/server/stock/mark-page.ts';
import { readSalesOf } from '$lib/server/shipping/sales.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';

export const load: PageServerLoad = async ({ params, locals }) => {
  const id = rowId(params.id);
  const page = id !== null ? await readMarkPage(db(), id) : null;
  if (!page) error(404, 'There is no such mark. Scan its number above.');
  const specs = await readSpecs(db(), [page.mark.product]);
  const own = limitsFor(specs, page.mark.product, null);
  const tests = page.mark.kind === 'bulk' ? [] : await readTests(db(), [page.mark.id]);
  const asked = [
    ...(own?.limits ?? []),
    ...specs.filter((one) => one.partner !== null).flatMap((one) => one.spec.limits)
  ].filter(
    (limit, index, all) =>
      all.findIndex((other) => other.name.toUpperCase() === limit.name.toUpperCase()) === index
  );
  const verdicts = [
    { whose: null as string | null, ...verdictOf(own, countingResults(tests, own)) },
    ...specs
      .filter((one) => one.partner !== null)
      .map((one) => {
        const spec = limitsFor(specs, page.mark.product, one.partner);
        return { whose: one.partner, ...verdictOf(spec, countingResults(tests, spec)) };
      })
  ].filter((one) => one.verdict !== null);
  const presentVersion = specs.find((one) => one.partner === null)?.version ?? null;
  const certificates = await db()<{ number: number; at: Date }[]>`
    SELECT c.number, c.issued_at AS at
    FROM certificate_mark m
      JOIN certificate c USING (number)
    WHERE m.mark_id = ${page.mark.id}
    ORDER BY c.number DESC
    LIMIT 10
  `;
  const sales = page.mark.kind === 'bulk' ? [] : await readSalesOf(db(), page.mark.id);
  return {
    ...page,
    sales,
    mayRecall: mayDo(locals.actor!.roles, 'recall'),
    mayReturn: mayDo(locals.actor!.roles, 'book.return'),
    tests,
    asked,
    sampling: own?.sampling ?? '',
    verdicts,
    presentVersion,
    certificates: certificates.map((one) => ({ number: one.number, at: one.at.toISOString() })),
    mayTest: mayDo(locals.actor!.roles, 'test'),
    mayCertify: mayDo(locals.actor!.roles, 'certify'),
    mayDecide: mayDo(locals.actor!.roles, 'decide.quality'),
    mayCorrect: mayDo(locals.actor!.roles, 'book.scrap'),
    mayRepack: mayDo(locals.actor!.roles, 'book.repack'),
    mayAmend: mayDo(locals.actor!.roles, 'amend'),
    mayIdentify: mayDo(locals.actor!.roles, 'book.identify'),
    unnumbered:
      page.mark.kind !== 'serial' &&
      (await readUnnumbered(db(), page.mark.product)).some((row) => row.mark === page.mark.id)
  };
};
