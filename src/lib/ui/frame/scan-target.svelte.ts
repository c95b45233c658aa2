/**
 * Where a scan goes on a working screen: the sheet says what it would do with the text and does it.
 */
export interface ScanTarget {
  /** `Add to line HEAD-A`: what would be done, or null where this sheet cannot take the text. */
  offer: (text: string) => string | null;
  take: (text: string) => void;
}

class Holder {
  current = $state<ScanTarget | null>(null);
}
export const scanTarget = new Holder();
