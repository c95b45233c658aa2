/** An address with the parameters that say something, in their order; empty ones are left out. */
export function addressOf(
  path: string,
  asked: Readonly<Record<string, string | undefined>>
): string {
  const said = Object.entries(asked).filter((one): one is [string, string] => !!one[1]);
  const query = new URLSearchParams(said).toString();
  return query ? `${path}?${query}` : path;
}
