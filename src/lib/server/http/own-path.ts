/**
 * Where to go on to, if it is a page of ours. What a browser makes of an address is not what it looks
 * like (it drops tabs and line ends, and reads \ as /), so it is read as a browser reads it.
 * @param here the address that is asked for now
 * @param to what came with it; `/` where that is nothing, or elsewhere
 */
export function ownPath(here: URL, to: string | null): string {
  if (!to?.startsWith('/')) return '/';
  try {
    const { pathname, search, hash } = new URL(to, here.origin);
    const path = pathname + search + hash;
    // Read again, as the browser will: `/.//elsewhere` has become `//elsewhere` by now.
    if (new URL(path, here.origin).origin === here.origin) return path;
  } catch {
    // no address at all
  }
  return '/';
}
