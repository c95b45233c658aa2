/** What a customer wishes of what is shipped to them. */
export interface WishSaid {
  /** Code of the product; null for all. */
  product: string | null;
  leastDays: number | null;
  leastShare: string | null;
  oneLot: boolean;
  oneDate: boolean;
  tested: boolean;
}

/** A wish as a sentence. */
export function sayWish(wish: WishSaid): string {
  const { product, leastDays, leastShare, oneLot, oneDate, tested } = wish;
  const parts = [
    leastDays !== null ? `at least ${leastDays} days to run` : '',
    leastShare !== null ? `at least ${leastShare} % of its life to run` : '',
    oneLot ? 'one lot only' : '',
    oneDate ? 'one expiry date in a carton' : '',
    tested ? 'tested goods only' : ''
  ].filter(Boolean);
  return `Of ${product ?? 'every product'}: ${parts.join(', ')}.`;
}

/** What a partner is to us, and how they are named elsewhere. */
export function sayPartner(partner: {
  supplier: boolean;
  customer: boolean;
  gln: string | null;
  warrantyMonths: number | null;
}): string[] {
  const { supplier, customer, gln, warrantyMonths } = partner;
  const roles = [supplier ? 'supplier' : '', customer ? 'customer' : ''].filter(Boolean);
  return [
    roles.length > 0
      ? `Is our ${roles.join(' and our ')}.`
      : 'Is neither supplier nor customer: no order can name them.',
    gln ? `Their GLN is ${gln}.` : 'No GLN is known of them: event documents cannot name them.',
    ...(customer && warrantyMonths !== null
      ? [`By their contract they have ${warrantyMonths} months of warranty.`]
      : [])
  ];
}
