import type { Faults } from '../faults/fault.ts';
import type { KnownPlace, KnownProduct, Snapshot } from '../ledger/snapshot.ts';

/**
 * Where goods go that a plan sends to quarantine: to that of the site they were to lie at.
 * Faults: place.quarantine where the site has none.
 * @param sent whether the plan sends them there
 * @param place where the person would have put them
 */
export function placeFor(
  snapshot: Snapshot,
  product: KnownProduct,
  sent: boolean,
  place: KnownPlace,
  path: string,
  faults: Faults
): KnownPlace | null {
  if (!sent || place.quarantine) return place;
  const ofSite = [...snapshot.places.values()].find(
    (one) => one.quarantine && one.site === place.site
  );
  if (ofSite) {
    const message = `${product.code} goes to ${ofSite.name} (${ofSite.code}) instead of ${place.code}: its plan sends it to quarantine first.`;
    faults.note(path, message, product.code);
    return ofSite;
  }
  const message = `The plan of ${product.code} sends it to quarantine first, and ${place.site} has no such place. Set one up in Setup → Places, or name one of another site.`;
  faults.add('place.quarantine', path, message, product.code);
  return null;
}
