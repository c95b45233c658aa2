import { bookingRoute } from '$lib/server/api/booking-route';
import { Teardown } from '$lib/server/api/schemas';
import { teardown } from '$lib/server/booking/teardown';

export const POST = bookingRoute(teardown, Teardown);
