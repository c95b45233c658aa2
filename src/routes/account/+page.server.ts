import type { PageServerLoad } from './$types';
import { ownPath } from '$lib/server/http/own-path.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readAccessSettings } from '$lib/server/people/account/access-settings.ts';
import { readAccount } from '$lib/server/people/account/read-account.ts';
import { selfOf } from '$lib/server/people/account/self.ts';

export const load: PageServerLoad = async ({ locals, url }) => {
  const self = selfOf(locals);
  const [account, { factorRoles }] = await Promise.all([
    readAccount(db(), self),
    readAccessSettings(db())
  ]);
  return {
    account,
    wait: self.wait ?? null,
    to: ownPath(url, url.searchParams.get('to')),
    isDemanded: account.roles.some((role) => factorRoles.includes(role))
  };
};
