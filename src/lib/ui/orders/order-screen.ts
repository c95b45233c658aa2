/** The working screen of each kind of order. */
export const ORDER_SCREEN = { purchase: '/receive', work: '/build', sales: '/ship' } as const;
