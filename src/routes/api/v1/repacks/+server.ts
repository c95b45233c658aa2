import { bookingRoute } from '$lib/server/http/booking-route.ts';
import { Repack } from '$lib/server/making/schemas.ts';
import { repack } from '$lib/server/making/repack.ts';

export const POST = bookingRoute(repack, Repack);
