/**
 * Where a list in pages is.
 * @param path the screen
 * @param asked what it is narrowed to, and the code the page comes after; empty ones are left out
 */
export function pagedAddress(path: string, asked: { q?: string; after?: string }): string {
  const query = new URLSearchParams();
  if (asked.q) query.set('q', asked.q);
  if (asked.after) query.set('after', asked.after);
  return query.size > 0 ? `${path}?${query.toString()}` : path;
}
