import { bookingRoute } from '$lib/server/api/booking-route';
import { Packing } from '$lib/server/api/schemas';
import { pack } from '$lib/server/booking/pack';

export const POST = bookingRoute(pack, Packing);
