import type { CustomerWishes } from '../../../core/catalogue/wishes.ts';
import { wishWords } from '../../shipping/say-wishes.ts';

/** What a customer wishes of what is shipped to them. */
export interface WishSaid extends CustomerWishes {
  /** Code of the product; null for all. */
  product: string | null;
}

/** A wish as a sentence. */
export const sayWish = (wish: WishSaid): string =>
  `Of ${wish.product ?? 'every product'}: ${wishWords(wish).join(', ')}.`;

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
