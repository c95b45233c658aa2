import { bookingRoute } from '$lib/server/api/booking-route';
import { Identification } from '$lib/server/api/schemas';
import { giveNumbers } from '$lib/server/booking/give-numbers';

export const POST = bookingRoute(giveNumbers, Identification);
