import { bookingRoute } from '$lib/server/api/booking-route';
import { Reversal } from '$lib/server/api/schemas';
import { reverse } from '$lib/server/booking/reverse';

export const POST = bookingRoute(reverse, Reversal);
