import { bookingRoute } from '$lib/server/http/booking-route.ts';
import { Amendment } from '$lib/server/stock/schemas.ts';
import { amend } from '$lib/server/stock/amend.ts';

export const POST = bookingRoute(amend, Amendment);
