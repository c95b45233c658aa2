import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { readSchemes } from '$lib/server/catalogue/numbering.ts';
import { changeablePlan, readPlans, readPlanVersion } from '$lib/server/catalogue/plans.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { tagOf } from '$lib/server/kernel/db/entity-tag.ts';

export const load: PageServerLoad = async ({ url, locals, parent }) => {
  const { today } = await parent();
  const [records, schemes] = await Promise.all([readPlans(db()), readSchemes(db(), today)]);
  const plans = records.map((record) => ({ ...record, tag: tagOf(changeablePlan(record)) }));
  const code = url.searchParams.get('plan'),
    version = Number(url.searchParams.get('version'));
  // An earlier version, to explain a booking of its day.
  const earlier =
    code && Number.isInteger(version) && version > 0
      ? await readPlanVersion(db(), code, version)
      : null;
  return {
    plans,
    chosen: plans.find((plan) => plan.code === code) ?? null,
    earlier: earlier ? { version, plan: earlier } : null,
    schemes: schemes.map(({ code: scheme, name }) => ({ code: scheme, name })),
    mayEdit: mayDo(locals.actor!.roles, 'edit.catalogue')
  };
};
