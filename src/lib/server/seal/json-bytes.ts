const QUOTE = 34;
const BACKSLASH = 92;
const FIRST_PRINTED = 32;

/** Bytes of JSON that grow as they are written. */
export class JsonBytes {
  private buffer: Buffer;
  length = 0;

  /** @param room bytes there is room for before it grows */
  constructor(room = 256) {
    this.buffer = Buffer.allocUnsafe(room);
  }

  ascii(text: string): void {
    this.room(text.length);
    const to = this.buffer;
    let put = this.length;
    for (let at = 0; at < text.length; at++) to[put++] = text.charCodeAt(at);
    this.length = put;
  }

  text(text: string): void {
    this.room(3 * text.length);
    this.length += this.buffer.write(text, this.length);
  }

  /** A few bytes; for more, `copy` is quicker. */
  put(bytes: Buffer): void {
    this.room(bytes.length);
    const to = this.buffer;
    let put = this.length;
    for (let at = 0; at < bytes.length; at++) to[put++] = bytes[at]!;
    this.length = put;
  }

  copy(from: Buffer, start: number, end: number): void {
    this.room(end - start);
    from.copy(this.buffer, this.length, start, end);
    this.length += end - start;
  }

  /** Copies up to what JSON writes in another way (a field's end too), or to the end. @returns where it stopped */
  copyPlain(from: Buffer, start: number, end: number): number {
    this.room(end - start);
    const to = this.buffer;
    let put = this.length;
    let at = start;
    for (; at < end; at++) {
      const byte = from[at]!;
      if (byte === QUOTE || byte === BACKSLASH || byte < FIRST_PRINTED) break;
      to[put++] = byte;
    }
    this.length = put;
    return at;
  }

  slice(from: number, to: number): Buffer {
    return this.buffer.subarray(from, to);
  }

  private room(more: number): void {
    if (this.length + more <= this.buffer.length) return;
    const larger = Buffer.allocUnsafe(2 * (this.length + more));
    this.buffer.copy(larger, 0, 0, this.length);
    this.buffer = larger;
  }
}

/** Lists of JSON by what they are of, those of one put one behind the other. */
export class JsonLists {
  private readonly bytes = new JsonBytes(1 << 14);
  private readonly spans = new Map<number, { from: number; to: number }>();
  private last: { of: number; from: number; to: number } | null = null;

  /** Begins the next of a list. @returns where it is to be written */
  put(of: number): JsonBytes {
    if (this.last?.of === of) {
      this.bytes.ascii(', ');
      return this.bytes;
    }
    this.close();
    this.last = { of, from: this.bytes.length, to: 0 };
    this.spans.set(of, this.last);
    return this.bytes;
  }

  /** What stands in the list, without the brackets. */
  get(of: number): Buffer | undefined {
    this.close();
    const span = this.spans.get(of);
    return span && this.bytes.slice(span.from, span.to);
  }

  private close(): void {
    if (this.last?.to === 0) this.last.to = this.bytes.length;
  }
}
