const BROWSERS = [
  [/Edg\//, 'Edge'],
  [/Firefox\//, 'Firefox'],
  [/Chrom(e|ium)\//, 'Chromium'],
  [/Safari\//, 'Safari']
] as const;
const SYSTEMS = [
  [/Android/, 'Android'],
  [/iPhone|iPad/, 'iOS'],
  [/Windows/, 'Windows'],
  [/Mac OS X/, 'macOS'],
  [/Linux/, 'Linux']
] as const;

const named = (names: readonly (readonly [RegExp, string])[], agent: string): string | undefined =>
  names.find(([sign]) => sign.test(agent))?.[1];

/** What a browser says it is (its User-Agent), in two words a person knows it by. */
export function sayAgent(agent: string): string {
  const browser = named(BROWSERS, agent),
    system = named(SYSTEMS, agent);
  if (browser && system) return `${browser} on ${system}`;
  return browser ?? system ?? (agent === '' ? 'A browser' : 'A program');
}
