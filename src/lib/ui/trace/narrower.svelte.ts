import { goto } from '$app/navigation';
import { page } from '$app/state';

/**
 * Leaves a product or a kind of event out of the trace in sight, or takes it in again; the address
 * says which.
 */
export async function narrower(
  by: 'without' | 'skip',
  now: readonly string[],
  one: string
): Promise<void> {
  const url = new URL(page.url);
  const next = now.includes(one) ? now.filter((other) => other !== one) : [...now, one];
  if (next.length > 0) url.searchParams.set(by, next.join(','));
  else url.searchParams.delete(by);
  await goto(url, { keepFocus: true, noScroll: true });
}

interface Cut {
  direction: string;
  until: string | null;
  from: string | null;
  clocks: 'obey' | 'ignore';
  without: { products: readonly string[]; kinds: readonly string[] };
}

/** The query of a trace's file: cut as the screen is. */
export const savedBy = (cut: Cut, format: string): string =>
  asCut(cut, new URLSearchParams({ format })).toString();

/** Where the proof of all a trace rests on is had: cut as the screen is. */
export const proofOf = (at: string, cut: Cut): string =>
  `/api/v1/ledger/proof?${asCut(cut, new URLSearchParams({ trace: at }))}`;

function asCut(
  { direction, until, from, clocks, without }: Cut,
  query: URLSearchParams
): URLSearchParams {
  query.set('direction', direction);
  if (from) query.set('from', from);
  if (clocks === 'ignore') query.set('clocks', clocks);
  if (until) query.set('until', until.slice(0, 10));
  if (without.products.length > 0) query.set('without', without.products.join(','));
  if (without.kinds.length > 0) query.set('skip', without.kinds.join(','));
  return query;
}
