import type { KnownProduct } from './snapshot.ts';

/**
 * A product as it is asked of goods whose age nobody knows, as what lay here before or was found:
 * its plan asks for the expiry where it could only compute one from a day that says nothing of them.
 * @param made the day they were made, where it is given
 */
export function ofUnknownAge(product: KnownProduct, made: string | undefined): KnownProduct {
  const { plan } = product;
  const computed = plan.expires === 'computed' && !made?.trim();
  if (!computed && plan.expires !== 'components') return product;
  return { ...product, plan: { ...plan, expires: 'entered' } };
}
