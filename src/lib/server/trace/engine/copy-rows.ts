import type { Tx } from '../../kernel/db/client.ts';
import { copied } from '../../kernel/db/copied.ts';

/**
 * One row of a binary COPY: its fields are read at their place in the buffer, without making
 * anything of them that nobody asks for.
 */
export class CopiedRow {
  buffer: Buffer = Buffer.alloc(0);
  readonly at: number[] = [];
  readonly length: number[] = [];

  isNull(field: number): boolean {
    return this.length[field]! < 0;
  }

  /** An int4; 0 for null. */
  int(field: number): number {
    return this.length[field]! < 0 ? 0 : this.buffer.readInt32BE(this.at[field]!);
  }

  /** An int8 or timestamptz that a plain number holds. */
  long(field: number): number {
    const at = this.at[field]!;
    return this.buffer.readInt32BE(at) * 0x1_0000_0000 + this.buffer.readUInt32BE(at + 4);
  }

  text(field: number): string {
    return this.buffer.toString('utf8', this.at[field], this.at[field]! + this.length[field]!);
  }

  /** The first letter of a text; quicker than the text where that tells enough. */
  letter(field: number): number {
    return this.buffer[this.at[field]!]!;
  }

  /**
   * A numeric times ten to the power of `places`, which must make it whole: a plain number where it
   * is a safe one.
   * Format: numeric_send of PostgreSQL, digits to the base 10,000.
   */
  numeric(field: number, places: number): number | bigint {
    const { buffer } = this,
      at = this.at[field]!;
    const digits = buffer.readUInt16BE(at),
      weight = buffer.readInt16BE(at + 2),
      negative = buffer.readUInt16BE(at + 4) === 0x4000;
    if (weight > 1 || places > 6) return this.large(at, digits, weight, negative, places);
    let value = 0;
    for (let n = 0; n < digits; n++) {
      const digit = buffer.readUInt16BE(at + 8 + n * 2),
        power = (weight - n) * 4 + places;
      value += power >= 0 ? digit * 10 ** power : digit / 10 ** -power;
    }
    return negative ? -value : value;
  }

  private large(
    at: number,
    digits: number,
    weight: number,
    negative: boolean,
    places: number
  ): number | bigint {
    let value = 0n;
    for (let n = 0; n < digits; n++)
      value = value * 10_000n + BigInt(this.buffer.readUInt16BE(at + 8 + n * 2));
    const power = (weight - digits + 1) * 4 + places;
    value = power >= 0 ? value * 10n ** BigInt(power) : value / 10n ** BigInt(-power);
    if (negative) value = -value;
    return value >= -9_007_199_254_740_991n && value <= 9_007_199_254_740_991n
      ? Number(value)
      : value;
  }
}

const SIGNATURE_BYTES = 19; // PGCOPY\n\377\r\n\0, flags, length of the extension

/**
 * Runs a query as a binary COPY and gives every row to `each`; ten times as fast as rows made into
 * objects.
 * @param query takes no parameters: nothing a person typed belongs here
 * @returns the rows read
 */
export async function copyRows(
  tx: Tx,
  query: string,
  each: (row: CopiedRow) => void
): Promise<number> {
  const row = new CopiedRow();
  let rest: Buffer = Buffer.alloc(0),
    begun = false,
    ended = false,
    count = 0;
  const take = (chunk: Buffer): void => {
    const buffer = rest.length === 0 ? chunk : Buffer.concat([rest, chunk]);
    let at = 0;
    if (!begun) {
      if (buffer.length < SIGNATURE_BYTES) {
        rest = buffer;
        return;
      }
      at = SIGNATURE_BYTES + buffer.readInt32BE(SIGNATURE_BYTES - 4);
      begun = true;
    }
    row.buffer = buffer;
    while (!ended) {
      const next = fieldsAt(buffer, at, row);
      if (next === -1) break;
      if (next === -2) {
        ended = true;
        break;
      }
      at = next;
      count++;
      each(row);
    }
    rest = buffer.subarray(at);
  };
  await copied(tx, query, 'binary', take);
  return count;
}

/**
 * Finds the fields of the row at a place; answers where the next one begins, -1 where it is not all
 * there, -2 at the end.
 */
function fieldsAt(buffer: Buffer, from: number, row: CopiedRow): number {
  if (from + 2 > buffer.length) return -1;
  const fields = buffer.readInt16BE(from);
  if (fields < 0) return -2;
  let at = from + 2;
  for (let n = 0; n < fields; n++) {
    if (at + 4 > buffer.length) return -1;
    const length = buffer.readInt32BE(at);
    at += 4;
    row.at[n] = at;
    row.length[n] = length;
    if (length > 0) at += length;
  }
  return at > buffer.length ? -1 : at;
}
