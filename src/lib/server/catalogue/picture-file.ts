import { inflateSync } from 'node:zlib';
import { imageSize } from 'image-size';

export const MOST_PICTURE_BYTES = 1_000_000;
/** Longest side in pixels: a photograph for a bench, not a poster. */
const MOST_PIXELS = 3_000;

export type PictureFile =
  { ok: true; type: 'image/png' | 'image/jpeg' } | { ok: false; why: string };

/**
 * What a picture that is sent in is, by its bytes and not by its name. Its size is read from its
 * head, and a PNG’s pixels are unpacked no further than that says: nobody’s paper is held up by a
 * small file that unpacks to gigabytes.
 */
export function readPictureFile(bytes: Uint8Array): PictureFile {
  if (bytes.length > MOST_PICTURE_BYTES)
    return { ok: false, why: 'it is larger than 1 MB; save it smaller' };
  const head = headOf(bytes);
  if (!head) return { ok: false, why: 'it is neither a PNG nor a JPEG' };
  const { type, width, height } = head;
  if (Math.max(width, height) > MOST_PIXELS)
    return {
      ok: false,
      why: `it is ${width} × ${height} pixels; ${MOST_PIXELS} on a side are the most`
    };
  if (type === 'png' && !unpacks(bytes, width, height))
    return { ok: false, why: 'it is damaged; save it anew' };
  return { ok: true, type: type === 'png' ? 'image/png' : 'image/jpeg' };
}

function headOf(bytes: Uint8Array): { type: 'png' | 'jpg'; width: number; height: number } | null {
  try {
    const { type, width, height } = imageSize(bytes);
    return type === 'png' || type === 'jpg' ? { type, width, height } : null;
  } catch {
    return null;
  }
}

const SIGNATURE = 8;

/** Whether a PNG’s pixels are as many as its head says (PNG, third edition, chapters 5 and 10). */
function unpacks(bytes: Uint8Array, width: number, height: number): boolean {
  const file = Buffer.from(bytes);
  const parts: Buffer[] = [];
  for (let at = SIGNATURE; at + 12 <= file.length;) {
    const length = file.readUInt32BE(at);
    if (file.toString('latin1', at + 4, at + 8) === 'IDAT')
      parts.push(file.subarray(at + 8, at + 8 + length));
    at += 12 + length;
  }
  // Eight bytes a pixel at the most, a filter byte a line, and some for interlacing.
  const most = (width * 8 + 1) * height + 8 * (height + 8);
  try {
    return inflateSync(Buffer.concat(parts), { maxOutputLength: most }).length > 0;
  } catch {
    return false;
  }
}
