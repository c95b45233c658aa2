/**
 * A stand-in for the tag reader of each station, in memory: tags lie on it, carry a code and a
 * little memory, and can be taken away, garbled or the reader unplugged, so that every fault of a
 * real one can be met without one. A real reader takes the place of this file.
 */
export interface ReaderTag {
  epc: string;
  /** What stands in the tag's own memory: its unit's last station and state. */ memory: string;
}
export interface TagReader {
  plugged: boolean;
  tags: ReaderTag[];
}

const readers = new Map<string, TagReader>();
/**
 * When each tag was last seen, by station, code and mode; one that stays on the reader is seen all
 * the time and read once.
 */
const seen = new Map<string, number>();
const MOST_TAGS = 200;

export function readerAt(station: string): TagReader {
  const key = station.toUpperCase();
  let reader = readers.get(key);
  if (!reader) readers.set(key, (reader = { plugged: true, tags: [] }));
  return reader;
}

/**
 * Puts a tag on the reader; the same tag lies there once. A tag carried from another reader keeps
 * its memory.
 */
export function placeTag(station: string, epc: string): void {
  const reader = readerAt(station);
  if (reader.tags.some((tag) => tag.epc === epc) || reader.tags.length >= MOST_TAGS) return;
  let memory = '';
  for (const other of readers.values()) {
    const at = other.tags.findIndex((tag) => tag.epc === epc);
    if (at >= 0) memory = other.tags.splice(at, 1)[0]!.memory;
  }
  reader.tags.push({ epc, memory: memory || (memories.get(epc) ?? '') });
}
/** What tags carried when they were taken away. */
const memories = new Map<string, string>();

export function takeTag(station: string, epc: string): void {
  const reader = readerAt(station);
  const tag = reader.tags.find((one) => one.epc === epc);
  if (tag) memories.set(epc, tag.memory);
  reader.tags = reader.tags.filter((one) => one.epc !== epc);
}

/** Spoils the code of a tag, as a weak field does. */
export function garbleTag(station: string, epc: string): void {
  const tag = readerAt(station).tags.find((one) => one.epc === epc);
  if (tag) tag.epc = `${tag.epc.slice(0, 11)}??${tag.epc.slice(13)}`;
}

/**
 * Writes a tag's memory. Answers whether it was written: not where the reader is unplugged or the
 * tag is gone.
 */
export function writeTag(station: string, epc: string, memory: string): boolean {
  const reader = readerAt(station);
  const tag = reader.plugged ? reader.tags.find((one) => one.epc === epc) : undefined;
  if (tag) tag.memory = memory;
  return tag !== undefined;
}

/**
 * Whether a tag is newly there: not seen for so many seconds by this reader in this mode. Seeing it
 * counts.
 */
export function newlySeen(
  station: string,
  epc: string,
  mode: string,
  now: number,
  seconds: number
): boolean {
  const key = `${station.toUpperCase()} ${epc} ${mode}`;
  const last = seen.get(key);
  seen.set(key, now);
  if (seen.size > 10_000) for (const [old, at] of seen) if (now - at > 3_600_000) seen.delete(old);
  return last === undefined || now - last >= seconds * 1000;
}
