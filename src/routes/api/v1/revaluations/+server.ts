import { bookingRoute } from '$lib/server/http/booking-route.ts';

export const POST = bookingRoute('revaluations');
