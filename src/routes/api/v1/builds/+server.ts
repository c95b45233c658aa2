import { bookingRoute } from '$lib/server/api/booking-route';
import { Build } from '$lib/server/api/schemas';
import { build } from '$lib/server/booking/build';

export const POST = bookingRoute(build, Build);
