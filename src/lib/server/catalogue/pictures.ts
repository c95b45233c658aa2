import { numberKey } from '../../core/numbers/number.ts';
import type { Actor } from '../kernel/actor.ts';
import { requireRight } from '../kernel/rights.ts';
import { notFound, Problem } from '../kernel/problem.ts';
import type { Db, Sql } from '../kernel/db/client.ts';
import { readPictureFile } from './picture-file.ts';

export interface Picture {
  type: string;
  bytes: Uint8Array;
  /** Another for another picture. */
  tag: string;
}

/** Pictures of products, by code; those that have none are left out. */
export async function readPictures(
  db: Db,
  codes: readonly string[]
): Promise<ReadonlyMap<string, Picture>> {
  if (codes.length === 0) return new Map();
  const rows = await db<(Picture & { code: string })[]>`
    SELECT p.code, i.type, i.bytes, md5(i.bytes) AS tag
    FROM product_picture i
      JOIN product p ON p.id = i.product_id
    WHERE upper(p.code) = ANY(${[...new Set(codes.map(numberKey))]})
  `;
  return new Map(rows.map(({ code, ...picture }) => [code, picture]));
}

/**
 * Sets what a product looks like, in place of what was there; nothing takes it off.
 * @throws Problem 403, 404, 422 where the file is no picture that can be kept
 */
export async function putPicture(
  sql: Sql,
  actor: Actor,
  code: string,
  bytes: Uint8Array | null
): Promise<void> {
  requireRight(actor, 'edit.catalogue');
  const [product] = await sql<{ id: number }[]>`
    SELECT id FROM product WHERE upper(code) = ${numberKey(code)}
  `;
  if (!product) notFound('product', code);
  if (bytes === null) {
    await sql`DELETE FROM product_picture WHERE product_id = ${product.id}`;
    return;
  }
  const file = readPictureFile(bytes);
  if (!file.ok)
    throw new Problem(422, 'The picture cannot be kept', [
      {
        code: 'request.malformed',
        path: 'picture',
        message: `The picture cannot be kept: ${file.why}. Send a PNG or JPEG of at most 1 MB.`
      }
    ]);
  await sql`
    INSERT INTO product_picture (product_id, type, bytes, set_by)
    VALUES (${product.id}, ${file.type}, ${Buffer.from(bytes)}, ${actor.personId})
    ON CONFLICT (product_id) DO UPDATE
    SET type = excluded.type, bytes = excluded.bytes, set_by = excluded.set_by,
      set_at = clock_timestamp()
  `;
}
