import type { PageServerLoad } from './$types';
import { db } from '$lib/server/kernel/db/client.ts';
import { SecurityQuery } from '$lib/server/people/schemas.ts';
import { readSecurityLog } from '$lib/server/people/security-log.ts';

/** Lines on one page; earlier ones follow. */
const MOST = 100;

export const load: PageServerLoad = async ({ url }) => {
  const given = Object.fromEntries([...url.searchParams].filter(([, value]) => value !== ''));
  const read = SecurityQuery.safeParse(given);
  const asked = read.success ? read.data : SecurityQuery.parse({});
  const lines = await readSecurityLog(db(), asked, MOST);
  const { kind = '', who = '', from = '', to = '' } = asked;
  return {
    lines,
    asked: { kind, who, from, to },
    earlier: lines.length === MOST ? lines.at(-1)!.id : null
  };
};
