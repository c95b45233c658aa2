import { bookingRoute } from '$lib/server/http/booking-route.ts';
import { QualityDecision } from '$lib/server/quality/schemas.ts';
import { quality } from '$lib/server/quality/decide-quality.ts';

export const POST = bookingRoute(quality, QualityDecision);
