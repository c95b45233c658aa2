import { bookingRoute } from '$lib/server/api/booking-route';
import { Correction } from '$lib/server/api/schemas';
import { correct } from '$lib/server/booking/correct';

export const POST = bookingRoute(correct, Correction);
