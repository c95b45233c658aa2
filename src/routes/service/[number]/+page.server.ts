import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { today } from '$lib/server/kernel/clock.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readMarkQuality } from '$lib/server/catalogue/verdicts-of-mark.ts';
import { listPlaces } from '$lib/server/catalogue/read-catalogue.ts';
import { readJob, readPartWarranties } from '$lib/server/service/read-job.ts';
import { readAsBuilt } from '$lib/server/trace/as-built.ts';

export const load: PageServerLoad = async ({ params, locals }) => {
  const whole = await readJob(db(), params.number, today());
  const { mark, product } = whole.job;
  const [parts, places, quality] = await Promise.all([
    partsOf(mark),
    listPlaces(db()),
    mark === null
      ? null
      : readMarkQuality(db(), { id: mark, kind: 'serial', product }, locals.actor!.personId)
  ]);
  return {
    ...whole,
    ...parts,
    quality,
    mayTest: mayDo(locals.actor!.roles, 'test'),
    mayDecide: mayDo(locals.actor!.roles, 'decide.quality'),
    places: places.map(({ code, name, siteName }) => ({ code, name: `${siteName}, ${name}` })),
    mayServe: mayDo(locals.actor!.roles, 'service')
  };
};

/** What was in it as it was built and is in it now: serials, with their makers’ warranties. */
async function partsOf(mark: number | null) {
  if (mark === null) return { inside: [], out: [] };
  const [now, built] = await Promise.all([
    readAsBuilt(db(), mark, { as: 'is' }),
    readAsBuilt(db(), mark, { as: 'built' })
  ]);
  const serials = (record: typeof now) =>
    (record?.lines ?? []).flatMap((line) =>
      line.level > 0 && line.mark?.kind === 'serial'
        ? [{ mark: line.mark.id, product: line.product, serial: line.mark.number! }]
        : []
    );
  const [inside, once] = [serials(now), serials(built)];
  const still = new Set(inside.map((part) => part.mark));
  const out = once.filter((part) => !still.has(part.mark));
  const all = [...inside, ...out].map((part) => part.mark);
  const warranties = await readPartWarranties(db(), all, today());
  const told = (part: (typeof inside)[number]) => ({ ...part, ...warranties.get(part.mark)! });
  return { inside: inside.map(told), out: out.map(told) };
}
