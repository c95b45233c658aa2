/**
 * What a browser keeps under a name; null where there is nothing, or what is kept there is of
 * another version of this page and means nothing to it.
 */
export function keptJson<T>(storage: Pick<Storage, 'getItem'>, key: string): T | null {
  try {
    return JSON.parse(storage.getItem(key) ?? 'null') as T | null;
  } catch {
    return null;
  }
}
