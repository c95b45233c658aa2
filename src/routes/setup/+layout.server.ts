import type { LayoutServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';

export const load: LayoutServerLoad = ({ locals }) => ({
  mayEdit: mayDo(locals.actor!.roles, 'edit.catalogue'),
  maySecurity: mayDo(locals.actor!.roles, 'read.security'),
  mayPeople: mayDo(locals.actor!.roles, 'edit.people')
});
