import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { billVersions, readBill, whereUsed } from '$lib/server/catalogue/bills.ts';
import { mayDo } from '$lib/core/people/rights.ts';
import { company } from '$lib/server/catalogue/company.ts';
import { forEyesOf } from '$lib/server/catalogue/costs-of-bill.ts';
import { productsNamed } from '$lib/server/catalogue/find-choices.ts';
import { readProduct } from '$lib/server/catalogue/products.ts';
import { seenOfBill } from '$lib/server/catalogue/seen-bill.ts';
import { readWhatItTakes } from '$lib/server/catalogue/what-it-takes.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { tagOf } from '$lib/server/kernel/db/entity-tag.ts';
import { BILL_COLUMNS } from '$lib/server/catalogue/import-bills.ts';

export const load: PageServerLoad = async ({ params, url, parent, locals }) => {
  const { today, mayEdit } = await parent();
  const actor = locals.actor!;
  const product = await readProduct(db(), params.code);
  if (!product) error(404, `There is no product ${params.code}.`);
  const { code, name, unit } = product;
  // What was seen is read first: a version kept between the two is one that was not seen.
  const seen = await seenOfBill(db(), code, today);
  const [present, versions, usedIn, ours] = await Promise.all([
    readBill(db(), code, { day: today }),
    billVersions(db(), code),
    whereUsed(db(), code, today),
    company(db())
  ]);
  const asked = Number(url.searchParams.get('version')) || null;
  const isPresent = asked === null || asked === present?.version;
  const bill = isPresent ? present : await readBill(db(), code, { version: asked });
  if (asked !== null && !bill) error(404, `${code} has no bill version ${asked}.`);
  return {
    product: { code, name, unit },
    part: {
      bill: bill && forEyesOf(actor, bill),
      tag: seen && tagOf(seen),
      others: await productsNamed(
        db(),
        [...(bill?.parts ?? []), ...(bill?.coProducts ?? [])].map((one) => one.product)
      ),
      seesCosts: mayDo(actor.roles, 'see.costs'),
      currency: ours.currency ?? '',
      ...{ today, mayEdit }
    },
    present: present?.version ?? null,
    asked,
    versions,
    usedIn,
    tree: present && (await readWhatItTakes(db(), code, url.searchParams.get('quantity'), today)),
    columns: BILL_COLUMNS.map(({ says, required = false }) => ({ says, required }))
  };
};
