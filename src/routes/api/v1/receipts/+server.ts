import { bookingRoute } from '$lib/server/api/booking-route';
import { Receipt } from '$lib/server/api/schemas';
import { receive } from '$lib/server/booking/receive';

export const POST = bookingRoute(receive, Receipt);
