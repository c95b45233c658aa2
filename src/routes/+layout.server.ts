import type { LayoutServerLoad } from './$types';
import { ourElsewhere } from '$lib/server/people/elsewhere/settings.ts';
import { today } from '$lib/server/kernel/clock.ts';

export const load: LayoutServerLoad = ({ locals: { actor } }) => ({
  actor: actor ? { login: actor.login, name: actor.name, roles: actor.roles } : null,
  lockMinutes: actor?.lockMinutes ?? 0,
  elsewhere: ourElsewhere()?.name ?? null,
  today: today()
});
