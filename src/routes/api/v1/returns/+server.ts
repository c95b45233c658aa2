import { bookingRoute } from '$lib/server/api/booking-route';
import { GoodsReturn } from '$lib/server/api/schemas';
import { goodsReturn } from '$lib/server/booking/return';

export const POST = bookingRoute(goodsReturn, GoodsReturn);
