import { bookingRoute } from '$lib/server/http/booking-route.ts';
import { Correction } from '$lib/server/stock/schemas.ts';
import { correct } from '$lib/server/stock/correct.ts';

export const POST = bookingRoute(correct, Correction);
