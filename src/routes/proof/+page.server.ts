import type { PageServerLoad } from './$types';
import { ourPublicKey } from '$lib/server/seal/seal-key.ts';

/** For whoever was given a proof file: no sign-in, and nothing of the file is sent here. */
export const load: PageServerLoad = ({ locals }) => ({
  withoutFrame: !locals.actor,
  ourKey: ourPublicKey()
});
