import type { LayoutServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';

export const load: LayoutServerLoad = ({ locals }) => ({
  mayEdit: mayDo(locals.actor!.roles, 'edit.catalogue'),
  mayPeople: mayDo(locals.actor!.roles, 'edit.people')
});
