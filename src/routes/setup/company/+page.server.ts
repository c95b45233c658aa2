import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/access/rights';
import { company } from '$lib/server/catalogue/company';
import { db } from '$lib/server/db/client';

export const load: PageServerLoad = async ({ locals }) => ({ company: await company(db()), mayEdit: mayDo(locals.actor!.roles, 'edit.catalogue') });
