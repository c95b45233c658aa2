import { bookingRoute } from '$lib/server/http/booking-route.ts';
import { Amendment } from '$lib/server/http/schemas.ts';
import { amend } from '$lib/server/stock/amend.ts';

export const POST = bookingRoute(amend, Amendment);
