import { bookingRoute } from '$lib/server/http/booking-route.ts';
import { Reversal } from '$lib/server/ledger/schemas.ts';
import { reverse } from '$lib/server/ledger/reverse.ts';

export const POST = bookingRoute(reverse, Reversal);
