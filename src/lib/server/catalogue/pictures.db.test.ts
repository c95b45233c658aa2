import { deflateSync } from 'node:zlib';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Problem } from '../kernel/problem.ts';
import { newPdf, placePicture } from '../kernel/paper/pdf.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { readPictureFile } from './picture-file.ts';
import { putPicture, readPictures } from './pictures.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.end());

const picture = (side: number): Uint8Array => {
  const png = new PNG({ width: side, height: side });
  png.data.fill(0x80);
  return PNG.sync.write(png);
};

/** A chunk as the standard has it; nobody here looks at its check sum. */
const chunk = (name: string, data: Buffer): Buffer => {
  const length = Buffer.alloc(4);
  length.writeUInt32BE(data.length);
  return Buffer.concat([length, Buffer.from(name, 'latin1'), data, Buffer.alloc(4)]);
};

describe('pictures of products', () => {
  it('are set, replaced and taken off, and stand on paper', async () => {
    await putPicture(world.sql, world.actor, 'ser', picture(4));
    await putPicture(world.sql, world.actor, 'SER', picture(8));
    const [kept] = (await readPictures(world.sql, ['SER', 'LOT'])).values();
    expect(kept!.type).toBe('image/png');
    expect(Buffer.compare(kept!.bytes, picture(8))).toBe(0);
    const doc = newPdf({ title: 'x' });
    placePicture(doc, kept!, 10, 10, 40);
    doc.end();
    await putPicture(world.sql, world.actor, 'SER', null);
    expect((await readPictures(world.sql, ['SER'])).size).toBe(0);
  });

  it('that are none, too large or made to unpack to gigabytes are refused with why', async () => {
    const why = (bytes: Uint8Array) => {
      const file = readPictureFile(bytes);
      return file.ok ? file.type : file.why;
    };
    expect(why(picture(4))).toBe('image/png');
    expect(why(Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'))).toMatch(/neither/);
    expect(why(Buffer.from('not a picture'))).toMatch(/neither/);
    expect(why(Buffer.concat([picture(4), Buffer.alloc(1_000_001)]))).toMatch(/larger than 1 MB/);
    const small = Buffer.from(picture(4));
    const head = small.subarray(0, 8 + 12 + 13);
    // Four pixels by its head, sixty megabytes by what is packed into it.
    const bomb = Buffer.concat([head, chunk('IDAT', deflateSync(Buffer.alloc(60_000_000)))]);
    expect(why(bomb)).toMatch(/damaged/);
    const wide = Buffer.from(small);
    wide.writeUInt32BE(30_000, 16);
    expect(why(wide)).toMatch(/30000 × 4 pixels/);
    const auditor = { ...world.actor, roles: ['auditor' as const] };
    await expect(putPicture(world.sql, auditor, 'SER', picture(4))).rejects.toBeInstanceOf(Problem);
    await expect(putPicture(world.sql, world.actor, 'NONE', picture(4))).rejects.toMatchObject({
      status: 404
    });
  });
});
