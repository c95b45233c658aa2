/**
 * Lets others be served before going on: between two stretches of work on something large. What is
 * awaited otherwise goes on in the same turn of the event loop, and nobody else is heard.
 */
export const letOthersIn = (): Promise<void> => new Promise((next) => setImmediate(next));

const AT_ONCE = 1_000;

/** A long list in stretches of a thousand: others are served in between. */
export async function* inStretches<T>(items: readonly T[], atOnce = AT_ONCE): AsyncGenerator<T[]> {
  for (let from = 0; from < items.length; from += atOnce) {
    if (from > 0) await letOthersIn();
    yield items.slice(from, from + atOnce);
  }
}

/** What each of a long list becomes, in stretches. */
export async function mapInStretches<T, Made>(
  items: readonly T[],
  make: (item: T) => Made,
  atOnce = AT_ONCE
): Promise<Made[]> {
  const made: Made[] = [];
  for await (const some of inStretches(items, atOnce)) made.push(...some.map(make));
  return made;
}
