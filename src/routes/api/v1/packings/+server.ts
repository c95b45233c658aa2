import { bookingRoute } from '$lib/server/http/booking-route.ts';
import { Packing } from '$lib/server/shipping/schemas.ts';
import { pack } from '$lib/server/shipping/pack.ts';

export const POST = bookingRoute(pack, Packing);
