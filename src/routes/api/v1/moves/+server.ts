import { bookingRoute } from '$lib/server/http/booking-route.ts';
import { Move } from '$lib/server/stock/schemas.ts';
import { move } from '$lib/server/stock/move.ts';

export const POST = bookingRoute(move, Move);
