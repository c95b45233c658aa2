/** What a hook may be told of, and how it is said to who sets it up. */
export const HOOK_TYPES = {
  'receipt.booked': 'goods received',
  'build.booked': 'goods built or repacked',
  'shipment.booked': 'goods shipped',
  'return.booked': 'goods that came back',
  'hold.booked': 'lots and serials held, released or rejected',
  'reversal.booked': 'bookings taken back',
  'recall.opened': 'a recall opened',
  'recall.decided': 'a recall decided, its scope known',
  'recall.closed': 'a recall closed'
} as const;
export type HookType = keyof typeof HOOK_TYPES;

export const HOOK_TYPE_NAMES = Object.keys(HOOK_TYPES) as [HookType, ...HookType[]];

const OF_KIND: Record<string, HookType> = {
  receive: 'receipt.booked',
  opening: 'receipt.booked',
  build: 'build.booked',
  repack: 'build.booked',
  ship: 'shipment.booked',
  return: 'return.booked',
  hold: 'hold.booked',
  release: 'hold.booked',
  reject: 'hold.booked',
  reversal: 'reversal.booked'
};

/** What an event of the ledger is told as; null where nobody is told of its kind. */
export const hookTypeOf = (kind: string): HookType | null => OF_KIND[kind] ?? null;
