/** Everything that can be wrong with a booking; see docs/domain.md. */
export const FAULT_CODES = [
  'mark.missing',
  'mark.duplicate',
  'mark.unknown',
  'mark.wrong-product',
  'mark.held',
  'mark.rejected',
  'mark.expired',
  'mark.off-spec',
  'mark.reserved',
  'stock.short',
  'quantity.mismatch',
  'quantity.not-whole',
  'number.malformed',
  'balance.open',
  'fact.missing',
  'date.missing',
  'order.closed',
  'product.unknown',
  'place.unknown',
  'partner.unknown',
  'right.missing',
  'event.moved-on',
  'part.absent',
  'part.fitted',
  'time.order',
  'place.quarantine',
  'wish.unmet',
  'count.closed',
  'approval.missing'
] as const;

export type FaultCode = (typeof FAULT_CODES)[number];
