import { bookingRoute } from '$lib/server/http/booking-route.ts';
import { Identification } from '$lib/server/stock/schemas.ts';
import { giveNumbers } from '$lib/server/stock/give-numbers.ts';

export const POST = bookingRoute(giveNumbers, Identification);
