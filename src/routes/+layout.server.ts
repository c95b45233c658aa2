import type { LayoutServerLoad } from './$types';
import { db } from '$lib/server/kernel/db/client.ts';
import { today } from '$lib/server/kernel/clock.ts';
import { readAccessSettings } from '$lib/server/people/account/access-settings.ts';

export const load: LayoutServerLoad = async ({ locals: { actor } }) => ({
  actor: actor ? { login: actor.login, name: actor.name, roles: actor.roles } : null,
  lockMinutes: actor ? (await readAccessSettings(db())).lockMinutes : 0,
  today: today()
});
