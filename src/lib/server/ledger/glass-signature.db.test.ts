import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PNG } from 'pngjs';
import type { BookedAnswer } from './book.ts';
import { ship } from '../shipping/kinds.ts';
import { deliveryNotePdf } from '../shipping/papers/delivery-note.ts';
import { readDeliveryNote } from '../shipping/read-delivery-note.ts';
import { move } from '../stock/kinds.ts';
import { problemOf } from '../testing/caught.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { keepGlassSignature, readDrawing, readGlassSignature } from './glass-signature.ts';

let world: World;
let shipped = 0;
beforeAll(async () => {
  world = await makeWorld();
  await world.receive('LOT', [{ lot: 'G1' }], '5', 'RACK');
  const lines = [{ product: 'LOT', marks: [{ lot: 'G1', quantity: '2' }] }];
  const booked = await world.book(ship, { document: 'S-G', customer: 'CUS', lines });
  shipped = (booked as unknown as BookedAnswer).event.id;
});
afterAll(() => world.end());

/** A drawing of a stroke. */
const drawing = (width = 40): string => {
  const png = new PNG({ width, height: 20 });
  for (let x = 0; x < width; x++) png.data.set([29, 41, 48, 255], (10 * width + x) * 4);
  return PNG.sync.write(png).toString('base64');
};
const sign = (event: number, name: string, png = drawing()) =>
  keepGlassSignature(world.sql, world.actor, event, { name, png });
const faults = async (work: Promise<unknown>): Promise<string[]> => {
  const { status, errors } = await problemOf(work);
  return errors.map((one) => `${status} ${one.path}`);
};

describe('a signature on glass', () => {
  it('is kept with the event once, also of two at the same moment, and stands on its paper', async () => {
    const both = await Promise.allSettled([sign(shipped, 'Bo Quill'), sign(shipped, 'Bo Quill')]);
    expect(both.map((one) => one.status).sort()).toEqual(['fulfilled', 'rejected']);
    expect(await readGlassSignature(world.sql, shipped)).toMatchObject({ name: 'Bo Quill' });
    const kept = Buffer.from(await readDrawing(world.sql, shipped)).toString('base64');
    expect(kept).toBe(drawing());
    expect(await faults(sign(shipped, 'Somebody else'))).toEqual(['409 event']);
    const note = (await readDeliveryNote(world.sql, shipped))!;
    expect(note.signature).toMatchObject({ name: 'Bo Quill' });
    const pdf = await deliveryNotePdf(note);
    expect(Buffer.from(pdf.subarray(0, 5)).toString()).toBe('%PDF-');
    await expect(
      world.sql`UPDATE glass_signature SET name = 'X' WHERE event_id = ${shipped}`
    ).rejects.toThrow();
  });

  it('is refused for what changes no hands, for no drawing, and by whoever may not', async () => {
    const line = { product: 'LOT', lot: 'G1', quantity: '1', from: 'RACK', to: 'DOCK' };
    const moved = await world.book(move, { document: 'M-G', kind: 'move', lines: [line] });
    const { id } = (moved as unknown as BookedAnswer).event;
    expect(await faults(sign(id, 'Bo'))).toEqual(['422 event']);
    expect(await faults(sign(999_999, 'Bo'))).toEqual(['404 code']);
    const lines = [{ product: 'LOT', marks: [{ lot: 'G1', quantity: '1' }] }];
    const again = await world.book(ship, { document: 'S-G2', customer: 'CUS', lines });
    const other = (again as unknown as BookedAnswer).event.id;
    const text = Buffer.from('<svg/>').toString('base64');
    expect(await faults(sign(other, 'Bo', text))).toEqual(['422 png']);
    const auditor = { ...world.actor, roles: ['auditor' as const] };
    const given = { name: 'Bo', png: drawing() };
    const refused = keepGlassSignature(world.sql, auditor, other, given);
    expect((await faults(refused))[0]).toMatch(/^403/);
  });
});
