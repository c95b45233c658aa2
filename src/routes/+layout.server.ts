import type { LayoutServerLoad } from './$types';
import { dayOf } from '$lib/core/calendar/day';

export const load: LayoutServerLoad = ({ locals }) => ({
  actor: locals.actor ? { login: locals.actor.login, name: locals.actor.name, roles: locals.actor.roles } : null,
  today: dayOf(new Date(), 'Europe/London')
});
