import { bookingRoute } from '$lib/server/http/booking-route.ts';
import { Teardown } from '$lib/server/making/schemas.ts';
import { teardown } from '$lib/server/making/teardown.ts';

export const POST = bookingRoute(teardown, Teardown);
