import type { PageServerLoad } from './$types';
import { readNames } from '$lib/server/catalogue/read-catalogue.ts';
import { today } from '$lib/server/kernel/clock.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { keptFigures } from '$lib/server/service/figures.ts';
import { FiguresQuery } from '$lib/server/service/schemas.ts';

export const load: PageServerLoad = async ({ url }) => {
  const filled = [...url.searchParams].filter(([, value]) => value !== '');
  const given = FiguresQuery.safeParse(Object.fromEntries(filled));
  // An address somebody mended by hand shows what can be made of it.
  const asked = given.success ? given.data : {};
  const [{ answer: figures, at, underWay }, { products }] = await Promise.all([
    keptFigures(db(), asked, today()),
    readNames(db())
  ]);
  const units = Object.entries(products)
    .filter(([, one]) => one.marking.startsWith('serial'))
    .map(([code, { name }]) => ({ code, name }))
    .sort((a, b) => a.code.localeCompare(b.code));
  return { asked, figures, at, underWay, products: units };
};
