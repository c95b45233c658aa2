import { checkRoute } from '$lib/server/http/booking-route.ts';

/** The verdict on a booking, without booking it. */
export const POST = checkRoute;
