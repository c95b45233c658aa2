// A row as COPY writes it, turned into what PostgreSQL itself writes of it as jsonb.
import type { Line } from './copy-lines.ts';
import type { JsonBytes } from './json-bytes.ts';

export interface Column {
  name: string;
  /** The name of its type in PostgreSQL; of a domain, what it is of. */
  type: string;
}

/** Writes a field, which stands in a buffer from a place to another. */
type Write = (to: JsonBytes, bytes: Buffer, start: number, end: number) => void;

/** A column of a copied row: its key as jsonb writes it, and how its field is written. */
export interface Field {
  name: string;
  /** Its key as the first of an object, and as one behind others. */
  first: string;
  next: string;
  write: Write;
}

const TAB = 9;
const QUOTE = 34;
const BACKSLASH = 92;
const LETTER_N = 78;
const LETTER_T = 116;
/** `2026-12-01` */
const DAY_LENGTH = 10;

const NUMBERS = new Set(['int2', 'int4', 'int8', 'numeric']);

export const fieldOf = ({ name, type }: Column): Field => ({
  name,
  first: `{${keyOf(name)}`,
  next: `, ${keyOf(name)}`,
  write: writerOf(type)
});

/** A key as jsonb writes it; names of columns and parts are plain. */
export const keyOf = (name: string): string => `${JSON.stringify(name)}: `;

function writerOf(type: string): Write {
  if (NUMBERS.has(type)) return (to, bytes, start, end) => to.copy(bytes, start, end);
  if (type === 'bool') return writeBool;
  if (type === 'timestamptz') return writeInstant;
  if (type === 'jsonb')
    return (to, bytes, start, end) => to.text(unescaped(bytes.toString('utf8', start, end)));
  return writeText;
}

const writeBool: Write = (to, bytes, start) =>
  to.ascii(bytes[start] === LETTER_T ? 'true' : 'false');

/** `2026-12-01 08:00:00.5+00` as `2026-12-01T08:00:00.5+00:00`; sessions are in UTC. */
const writeInstant: Write = (to, bytes, start, end) => {
  to.ascii('"');
  to.copy(bytes, start, start + DAY_LENGTH);
  to.ascii('T');
  to.copy(bytes, start + DAY_LENGTH + 1, end);
  to.ascii(':00"');
};

const writeText: Write = (to, bytes, start, end) => {
  if (!isPlain(bytes, start, end)) {
    to.text(JSON.stringify(unescaped(bytes.toString('utf8', start, end))));
    return;
  }
  to.ascii('"');
  to.copy(bytes, start, end);
  to.ascii('"');
};

/** Whether neither COPY nor JSON writes any of it in another way; COPY leaves no control character. */
function isPlain(bytes: Buffer, start: number, end: number): boolean {
  for (let at = start; at < end; at++) {
    const byte = bytes[at]!;
    if (byte === QUOTE || byte === BACKSLASH || byte < 32) return false;
  }
  return true;
}

const ESCAPED: Readonly<Record<string, string>> = {
  ...{ b: '\b', f: '\f', n: '\n', r: '\r', t: '\t', v: '\v' }
};

/** A field without the backslashes COPY puts before what would end it. */
export const unescaped = (raw: string): string =>
  raw.includes('\\') ? raw.replace(/\\(.)/gs, (_, sign: string) => ESCAPED[sign] ?? sign) : raw;

/** Where the field that begins here ends. */
export function endOfField({ bytes, end }: Line, start: number): number {
  let at = start;
  while (at < end && bytes[at] !== TAB) at++;
  return at;
}

/** Whether a field is how COPY writes that there is nothing. */
export const isNothing = (bytes: Buffer, start: number, end: number): boolean =>
  end - start === 2 && bytes[start] === BACKSLASH && bytes[start + 1] === LETTER_N;

/**
 * Writes a row as jsonb, without what is empty.
 * @param fields in the order of jsonb
 * @param start where the first of them begins
 */
export function writeRow(to: JsonBytes, fields: readonly Field[], line: Line, start: number): void {
  const { bytes } = line;
  let at = start;
  let isFirst = true;
  for (const field of fields) {
    const end = endOfField(line, at);
    if (!isNothing(bytes, at, end)) {
      to.ascii(isFirst ? field.first : field.next);
      field.write(to, bytes, at, end);
      isFirst = false;
    }
    at = end + 1;
  }
  to.ascii(isFirst ? '{}' : '}');
}

/** The number a field is. */
export function numberAt({ bytes }: Line, start: number, end: number): number {
  let value = 0;
  for (let at = start; at < end; at++) value = 10 * value + bytes[at]! - 48;
  return value;
}

/** The order in which jsonb keeps keys: by their length in bytes, then byte by byte. */
export function byJsonbOrder(a: string, b: string): number {
  const [x, y] = [Buffer.from(a), Buffer.from(b)];
  return x.length - y.length || Buffer.compare(x, y);
}

/** An object as jsonb from keys and what is written of each. */
export const objectText = (values: ReadonlyMap<string, string>): string =>
  `{${[...values]
    .sort(([a], [b]) => byJsonbOrder(a, b))
    .map(([name, json]) => keyOf(name) + json)
    .join(', ')}}`;

/** A character no text of PostgreSQL has: what holds it was never sealed. */
const NEVER_SEALED = '\0';

/**
 * A value of JSON as jsonb writes it; but of a number JavaScript may not know how it was kept, and
 * it comes out as nothing that could have been sealed.
 */
export function textOf(value: unknown): string {
  if (typeof value === 'number') return NEVER_SEALED;
  if (Array.isArray(value)) return `[${value.map(textOf).join(', ')}]`;
  if (typeof value !== 'object' || value === null) return JSON.stringify(value);
  return objectText(new Map(Object.entries(value).map(([name, of]) => [name, textOf(of)])));
}
