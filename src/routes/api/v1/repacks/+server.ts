import { bookingRoute } from '$lib/server/api/booking-route';
import { Repack } from '$lib/server/api/schemas';
import { repack } from '$lib/server/booking/repack';

export const POST = bookingRoute(repack, Repack);
