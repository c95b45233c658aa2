import { bookingRoute } from '$lib/server/http/booking-route.ts';
import { GoodsReturn } from '$lib/server/shipping/schemas.ts';
import { goodsReturn } from '$lib/server/shipping/return.ts';

export const POST = bookingRoute(goodsReturn, GoodsReturn);
