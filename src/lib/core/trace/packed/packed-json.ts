import type { PackedGraph } from './packed-drawing.ts';
import type { PackedLines } from './packed-lines.ts';

/**
 * Bytes of text that grow; whole numbers and plain ASCII are written digit by digit, a fifth of the
 * time of making strings of them.
 */
export class AsciiWriter {
  private bytes: Uint8Array;
  length = 0;

  constructor(capacity: number) {
    this.bytes = new Uint8Array(Math.max(64, capacity));
  }

  text(ascii: string): void {
    this.room(ascii.length);
    for (let n = 0; n < ascii.length; n++) this.bytes[this.length++] = ascii.charCodeAt(n);
  }

  number(value: number): void {
    this.room(16);
    if (value === 0) {
      this.bytes[this.length++] = 48;
      return;
    }
    let digits = 1;
    for (let bound = 10; value >= bound; bound *= 10) digits++;
    let rest = value;
    for (let at = this.length + digits - 1; at >= this.length; at--) {
      const next = Math.floor(rest / 10);
      this.bytes[at] = 48 + rest - next * 10;
      rest = next;
    }
    this.length += digits;
  }

  /** Text that is in bytes already. */
  piece(bytes: Uint8Array): void {
    this.room(bytes.length);
    this.bytes.set(bytes, this.length);
    this.length += bytes.length;
  }

  done(): Uint8Array {
    return this.bytes.subarray(0, this.length);
  }

  private room(more: number): void {
    if (this.length + more <= this.bytes.length) return;
    const larger = new Uint8Array(Math.max(this.length + more, this.bytes.length * 2));
    larger.set(this.bytes.subarray(0, this.length));
    this.bytes = larger;
  }
}

const asciiBytes = (text: string): Uint8Array =>
  Uint8Array.from(text, (letter) => letter.charCodeAt(0));

/** Every link spelt out between two marks, as a JSON list: the links of core/trace/graph.ts. */
export function linksJson({ nodes, marks }: PackedGraph): Uint8Array {
  const out = new AsciiWriter(marks.length * 80);
  const made = asciiBytes('{"type":"made","from":'),
    member = asciiBytes('{"type":"member","from":'),
    fitted = asciiBytes('{"type":"fitted","from":'),
    removed = asciiBytes('{"type":"removed","from":'),
    to = asciiBytes(',"to":'),
    transformation = asciiBytes(',"transformation":'),
    event = asciiBytes(',"event":'),
    comma = asciiBytes('},'),
    end = asciiBytes('}');
  const fronts = [made, member, fitted, removed];
  out.text('[');
  let at = 0,
    first = true;
  for (let n = 0; n < nodes.length; n += 5) {
    const ins = nodes[n + 3]!,
      outs = nodes[n + 4]!,
      type = nodes[n]!;
    for (let i = 0; i < ins; i++)
      for (let o = 0; o < outs; o++) {
        if (!first) out.piece(comma);
        first = false;
        out.piece(fronts[type]!);
        out.number(marks[at + i]!);
        out.piece(to);
        out.number(marks[at + ins + o]!);
        if (type === 0) {
          out.piece(transformation);
          out.number(nodes[n + 1]!);
        }
        out.piece(event);
        out.number(nodes[n + 2]!);
      }
    at += ins + outs;
  }
  if (!first) out.piece(end);
  out.text(']');
  return out.done();
}

/** The lines of each event as a JSON list, one behind the other; `start` says where each begins. */
export function linesJson(
  { events, lineStart, mark, place, amount, amounts }: PackedLines,
  placeCode: (place: number) => string
): { bytes: Uint8Array; start: Uint32Array } {
  const out = new AsciiWriter(mark.length * 48),
    start = new Uint32Array(events.length + 1);
  const front = asciiBytes('{"mark":'),
    comma = asciiBytes(','),
    ends = new Map<number, Uint8Array>();
  const encoder = new TextEncoder();
  const endOf = (where: number, value: number): Uint8Array => {
    const key = where * 0x1_0000_0000 + value;
    let end = ends.get(key);
    if (!end)
      ends.set(
        key,
        (end = encoder.encode(
          `,"place":${where === 0 ? 'null' : JSON.stringify(placeCode(where))},"quantity":"${amounts[value]!}"}`
        ))
      );
    return end;
  };
  for (let n = 0; n < events.length; n++) {
    start[n] = out.length;
    out.text('[');
    for (let line = lineStart[n]!; line < lineStart[n + 1]!; line++) {
      if (line > lineStart[n]!) out.piece(comma);
      out.piece(front);
      out.number(mark[line]!);
      out.piece(endOf(place[line]!, amount[line]!));
    }
    out.text(']');
  }
  start[events.length] = out.length;
  return { bytes: out.done(), start };
}
