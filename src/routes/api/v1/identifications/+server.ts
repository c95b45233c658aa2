import { bookingRoute } from '$lib/server/http/booking-route.ts';
import { Identification } from '$lib/server/http/schemas.ts';
import { giveNumbers } from '$lib/server/stock/give-numbers.ts';

export const POST = bookingRoute(giveNumbers, Identification);
