import { bookingRoute } from '$lib/server/http/booking-route.ts';
import { Build } from '$lib/server/making/schemas.ts';
import { build } from '$lib/server/making/build.ts';

export const POST = bookingRoute(build, Build);
