import {
  closeSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
  writeSync
} from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { crc32 } from 'node:zlib';
import { arraysOf, type PackedLedger } from '../../../core/trace/packed/packed-ledger.ts';
import type { LoadedLedger } from './load-ledger.ts';
import type { Anchor, Names } from './read-booked.ts';

// A kept index: "EARMARKI", the length of the header (8 bytes, little endian), the header as JSON,
// then every array, each from a place that 8 divides.
const MAGIC = 'EARMARKI';
/** Counts up whenever the arrays mean something else. */
const VERSION = 2;

const KINDS = { Uint8Array, Uint16Array, Uint32Array, Float64Array, BigInt64Array } as const;
interface Part {
  name: string;
  kind: keyof typeof KINDS;
  length: number;
  at: number;
  crc: number;
}
interface Header {
  version: number;
  snapshot: string;
  anchor: Anchor | null;
  names: Names;
  numbers: Record<string, number>;
  parts: Part[];
}

const padded = (bytes: number): number => Math.ceil(bytes / 8) * 8;

/** Writes a packed ledger so that the next start need not read the ledger; whole or not at all. */
export function writeIndexFile(
  path: string,
  { ledger, names, snapshot, anchor }: LoadedLedger
): void {
  const arrays = arraysOf(ledger);
  const parts: Part[] = [];
  let at = 0;
  for (const [name, array] of arrays) {
    const bytes = new Uint8Array(array.buffer, array.byteOffset, array.byteLength);
    parts.push({
      name,
      kind: array.constructor.name as keyof typeof KINDS,
      length:
        array.byteLength / (array as unknown as { BYTES_PER_ELEMENT: number }).BYTES_PER_ELEMENT,
      at,
      crc: crc32(bytes)
    });
    at += padded(array.byteLength);
  }
  const numbers = Object.fromEntries(
    Object.entries(ledger).filter(
      (entry): entry is [string, number] => typeof entry[1] === 'number'
    )
  );
  const header = Buffer.from(
    JSON.stringify({ version: VERSION, snapshot, anchor, names, numbers, parts } satisfies Header)
  );
  mkdirSync(dirname(path), { recursive: true });
  removeLeft(path);
  // Several processes may keep what they packed; the last is as good as any.
  const draft = `${path}.${process.pid}.new`;
  const file = openSync(draft, 'w', 0o600);
  try {
    const start = padded(16 + header.length);
    const front = Buffer.alloc(start);
    front.write(MAGIC, 0, 'latin1');
    front.writeBigUInt64LE(BigInt(header.length), 8);
    header.copy(front, 16);
    writeAll(file, front, 0);
    arrays.forEach(([, array], n) => {
      writeAll(
        file,
        new Uint8Array(array.buffer, array.byteOffset, array.byteLength),
        start + parts[n]!.at
      );
    });
    fsyncSync(file);
  } finally {
    closeSync(file);
  }
  renameSync(draft, path);
}

/** Nobody writes one for so long. */
const LEFT_AFTER_MS = 3_600_000;

/** Takes away drafts that processes left behind which died while they wrote. */
function removeLeft(path: string): void {
  const folder = dirname(path);
  const isDraft = (name: string): boolean =>
    name.startsWith(`${basename(path)}.`) && name.endsWith('.new');
  for (const name of readdirSync(folder).filter(isDraft)) {
    const draft = join(folder, name);
    // Another process may put its own in place just now.
    const written = statSync(draft, { throwIfNoEntry: false })?.mtimeMs;
    if (written !== undefined && Date.now() - written > LEFT_AFTER_MS)
      rmSync(draft, { force: true });
  }
}

/**
 * Reads a kept index into shared arrays; null where there is none, or it is of another version, cut
 * short or damaged.
 */
export function readIndexFile(path: string): LoadedLedger | null {
  let file: number;
  try {
    file = openSync(path, 'r');
  } catch {
    return null;
  }
  try {
    const front = Buffer.alloc(16);
    if (readAll(file, front, 0) < 16 || front.toString('latin1', 0, 8) !== MAGIC) return null;
    const length = Number(front.readBigUInt64LE(8));
    if (length > 256 * 1_048_576) return null;
    const text = Buffer.alloc(length);
    if (readAll(file, text, 16) < length) return null;
    const header = JSON.parse(text.toString('utf8')) as Header;
    if (header.version !== VERSION) return null;
    const start = padded(16 + length);
    const ledger: Record<string, unknown> = { ...header.numbers };
    for (const part of header.parts) {
      const Kind = KINDS[part.kind];
      const buffer = new SharedArrayBuffer(part.length * Kind.BYTES_PER_ELEMENT),
        bytes = new Uint8Array(buffer);
      if (readAll(file, bytes, start + part.at) < bytes.length || crc32(bytes) !== part.crc)
        return null;
      ledger[part.name] = new (Kind as new (buffer: ArrayBufferLike) => unknown)(buffer);
    }
    return {
      ledger: ledger as unknown as PackedLedger,
      names: header.names,
      snapshot: header.snapshot,
      anchor: header.anchor
    };
  } catch {
    return null;
  } finally {
    closeSync(file);
  }
}

// The operating system reads and writes two gigabytes at most at a time.
const PIECE = 1 << 28;

function writeAll(file: number, bytes: Uint8Array, at: number): void {
  for (let done = 0; done < bytes.length;)
    done += writeSync(file, bytes, done, Math.min(PIECE, bytes.length - done), at + done);
}

function readAll(file: number, bytes: Uint8Array, at: number): number {
  let done = 0;
  while (done < bytes.length) {
    const read = readSync(file, bytes, done, Math.min(PIECE, bytes.length - done), at + done);
    if (read === 0) break;
    done += read;
  }
  return done;
}
