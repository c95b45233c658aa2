/**
 * Address that Digital Links on labels and identifiers of our own begin with; `.example` goes
 * nowhere until a firm names its own.
 */
export const ownBase = (): string =>
  (process.env.EARMARK_LINK_BASE ?? 'https://id.earmark.example').replace(/\/+$/, '');
