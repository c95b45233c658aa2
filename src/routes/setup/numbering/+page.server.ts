import type { PageServerLoad } from './$types';
import { changeableScheme, readSchemes } from '$lib/server/catalogue/numbering.ts';
import { listSites } from '$lib/server/catalogue/read-catalogue.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { tagOf } from '$lib/server/kernel/db/entity-tag.ts';

export const load: PageServerLoad = async ({ parent }) => {
  const { today } = await parent();
  const [schemes, sites] = await Promise.all([readSchemes(db(), today), listSites(db())]);
  return {
    site: sites[0]?.code ?? 'SITE',
    schemes: schemes.map((scheme) => ({ ...scheme, tag: tagOf(changeableScheme(scheme)) }))
  };
};
