/** Most letters of a text or code that is looked for. */
const MOST = 100;

/** What an address asks of a list in pages: only what holds a text, the page after a code. */
export function pageAsked(url: URL): { q: string; after: string } {
  const param = (name: string): string => (url.searchParams.get(name) ?? '').trim().slice(0, MOST);
  return { q: param('q'), after: param('after') };
}
