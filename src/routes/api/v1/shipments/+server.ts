import { bookingRoute } from '$lib/server/http/booking-route.ts';
import { Shipment } from '$lib/server/shipping/schemas.ts';
import { ship } from '$lib/server/shipping/ship.ts';

export const POST = bookingRoute(ship, Shipment);
