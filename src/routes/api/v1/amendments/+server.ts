import { bookingRoute } from '$lib/server/api/booking-route';
import { Amendment } from '$lib/server/api/schemas';
import { amend } from '$lib/server/booking/amend';

export const POST = bookingRoute(amend, Amendment);
