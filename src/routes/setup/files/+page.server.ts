import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { IMPORTS, type ImportKind } from '$lib/server/imports.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const load: PageServerLoad = async ({ url, locals }) => {
  const actor = locals.actor!;
  const asked = url.searchParams.get('kind') ?? '';
  const kind = Object.hasOwn(IMPORTS, asked) ? (asked as ImportKind) : 'partners';
  const columns = await IMPORTS[kind].columns(db(), actor);
  return {
    kind,
    columns: columns.map(({ says, required = false }) => ({ says, required })),
    tables: Object.entries(IMPORTS).map(([name, { what, rights }]) => ({
      kind: name,
      what: [...what] as [string, string],
      mine: mayDo(actor.roles, 'import') && rights.some((right) => mayDo(actor.roles, right))
    }))
  };
};
