import { bookingRoute } from '$lib/server/api/booking-route';
import { QualityDecision } from '$lib/server/api/schemas';
import { quality } from '$lib/server/booking/quality';

export const POST = bookingRoute(quality, QualityDecision);
