import { bookingRoute } from '$lib/server/api/booking-route';
import { Move } from '$lib/server/api/schemas';
import { move } from '$lib/server/booking/move';

export const POST = bookingRoute(move, Move);
