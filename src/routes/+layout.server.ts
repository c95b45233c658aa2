import type { LayoutServerLoad } from './$types';
import { today } from '$lib/server/kernel/clock.ts';

export const load: LayoutServerLoad = ({ locals }) => ({
  actor: locals.actor
    ? { login: locals.actor.login, name: locals.actor.name, roles: locals.actor.roles }
    : null,
  today: today()
});
