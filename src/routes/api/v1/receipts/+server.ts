import { bookingRoute } from '$lib/server/http/booking-route.ts';
import { Receipt } from '$lib/server/receiving/schemas.ts';
import { receive } from '$lib/server/receiving/receive.ts';

export const POST = bookingRoute(receive, Receipt);
