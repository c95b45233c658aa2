import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { billVersions, readBill, whereUsed } from '$lib/server/catalogue/bills.ts';
import { mayDo } from '$lib/core/people/rights.ts';
import { forEyesOf } from '$lib/server/catalogue/costs-of-bill.ts';
import { readProduct } from '$lib/server/catalogue/products.ts';
import { Problem } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { productsNamed } from '$lib/server/catalogue/find-choices.ts';
import { readExplosion } from '$lib/server/catalogue/explosion.ts';

export const load: PageServerLoad = async ({ params, url, parent, locals }) => {
  const { today } = await parent();
  const product = await readProduct(db(), params.code);
  if (!product) error(404, `There is no product ${params.code}.`);
  const asked = Number(url.searchParams.get('version')) || null;
  const wanted = url.searchParams.get('quantity') ?? '1';
  const [present, versions, usedIn] = await Promise.all([
    readBill(db(), product.code, { day: today }),
    billVersions(db(), product.code),
    whereUsed(db(), product.code, today)
  ]);
  const bill =
    asked === null || asked === present?.version
      ? present
      : await readBill(db(), product.code, { version: asked });
  if (asked !== null && !bill) error(404, `${product.code} has no bill version ${asked}.`);
  const others = await productsNamed(db(), [
    ...(bill?.parts ?? []).map((part) => part.product),
    ...(bill?.coProducts ?? []).map((co) => co.product)
  ]);
  let explosion = null,
    why = '';
  try {
    if (present) explosion = await readExplosion(db(), product.code, wanted, today);
  } catch (problem) {
    if (!(problem instanceof Problem)) throw problem;
    why = problem.errors[0]?.message ?? problem.title;
  }
  return {
    product,
    bill: bill && forEyesOf(locals.actor!, bill),
    seesCosts: mayDo(locals.actor!.roles, 'see.costs'),
    present: present?.version ?? null,
    versions,
    usedIn,
    others,
    explosion,
    why,
    wanted
  };
};
