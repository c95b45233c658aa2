import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/access/rights';
import { db } from '$lib/server/db/client';
import { readUnnumbered } from '$lib/server/reading/unnumbered';
import { readMarkPage } from '$lib/server/reading/mark-page';
import { rowId } from '$lib/server/row-id';

export const load: PageServerLoad = async ({ params, locals }) => {
  const id = rowId(params.id);
  const page = id !== null ? await readMarkPage(db(), id) : null;
  if (!page) error(404, 'There is no such mark. Scan its number above.');
  return { ...page, mayDecide: mayDo(locals.actor!.roles, 'decide.quality'), mayCorrect: mayDo(locals.actor!.roles, 'book.scrap'), mayRepack: mayDo(locals.actor!.roles, 'book.repack'), mayAmend: mayDo(locals.actor!.roles, 'amend'), mayIdentify: mayDo(locals.actor!.roles, 'book.identify'), unnumbered: page.mark.kind !== 'serial' && (await readUnnumbered(db(), page.mark.product)).some((row) => row.mark === page.mark.id) };
};
