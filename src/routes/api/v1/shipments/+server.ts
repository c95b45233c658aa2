import { bookingRoute } from '$lib/server/api/booking-route';
import { Shipment } from '$lib/server/api/schemas';
import { ship } from '$lib/server/booking/ship';

export const POST = bookingRoute(ship, Shipment);
