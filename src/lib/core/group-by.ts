/** Things in groups by a key, groups and the things in them in the order they came. */
export function groupBy<T, K>(things: Iterable<T>, key: (thing: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const thing of things) {
    const group = groups.get(key(thing));
    if (group) group.push(thing);
    else groups.set(key(thing), [thing]);
  }
  return groups;
}
