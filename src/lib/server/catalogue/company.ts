import type { Actor } from '../kernel/actor.ts';
import { requireRight } from '../kernel/rights.ts';
import type { Db, Sql } from '../kernel/db/client.ts';

/** Our own firm as labels, notices and letters name it. */
export interface Company {
  name: string;
  gs1Prefix: string;
  address: string;
  /** The currency costs are kept in, as ISO 4217; null where they are not kept. */
  currency: string | null;
}

export async function company(db: Db): Promise<Company> {
  const [row] = await db<Company[]>`
    SELECT name, gs1_prefix AS "gs1Prefix", address, currency FROM company
  `;
  return { ...row! };
}

/**
 * Changes how we are named. SSCCs given before keep the prefix of their day. @throws Problem 403
 */
export async function putCompany(
  sql: Sql,
  actor: Actor,
  given: Omit<Company, 'currency'> & { currency?: string | null | undefined }
): Promise<Company> {
  requireRight(actor, 'edit.catalogue');
  await sql`
    UPDATE company
    SET name = ${given.name}, gs1_prefix = ${given.gs1Prefix}, address = ${given.address}
      ${given.currency === undefined ? sql`` : sql`, currency = ${given.currency}`}
  `;
  return company(sql);
}
