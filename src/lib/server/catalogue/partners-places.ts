import type { z } from 'zod';
import { hasGoodCheckDigit } from '../../core/gs1/check-digit.ts';
import { numberKey, shown } from '../../core/numbers/number.ts';
import type { Language } from '../../core/papers/language.ts';
import { isWay } from '../../core/stock/way.ts';
import type { Partner, Place } from './schemas.ts';
import { Problem } from '../kernel/problem.ts';
import { within, type Db, type Sql, type Tx } from '../kernel/db/client.ts';
import { cleanCode } from '../kernel/code.ts';

export interface PartnerRecord {
  code: string;
  name: string;
  supplier: boolean;
  customer: boolean;
  gln: string | null;
  /** As it stands on a letter, a line each. */
  address: string;
  /** Who reads it: a name, a telephone, an e-mail address. */
  contact: string;
  /** The one their papers and letters are written in. */
  language: Language;
  /** What their contract says of warranty; null where the products’ own months stand. */
  warrantyMonths: number | null;
}
export interface PlaceRecord {
  code: string;
  name: string;
  kind: string;
  site: string;
  siteName: string;
}

/** What is read of a partner (alias p). */
export const partnerColumns = (db: Db): ReturnType<Db> => db`
  p.code, p.name, p.supplier, p.customer, p.gln, p.address, p.contact,
  p.language, p.warranty_months AS "warrantyMonths"
`;

/** What is read of a place (alias p) at its site (alias s). */
export const placeColumns = (db: Db): ReturnType<Db> => db`
  p.code, p.name, p.kind, s.code AS site, s.name AS "siteName"
`;

export async function readPartner(db: Db, code: string): Promise<PartnerRecord | null> {
  const [row] = await db<PartnerRecord[]>`
    SELECT ${partnerColumns(db)} FROM partner p WHERE upper(p.code) = ${numberKey(code)}
  `;
  return row ?? null;
}

/** The language a partner reads; English where there is no such partner. */
export const languageOf = async (db: Db, code: string): Promise<Language> =>
  (await readPartner(db, code))?.language ?? 'en';

/**
 * Sets a partner up or changes it; address, contact, language and warranty stay where they are not
 * said. @throws Problem 422 where the code or the GLN is wrong
 */
export async function putPartner(
  sql: Sql | Tx,
  pathCode: string,
  given: z.infer<typeof Partner>
): Promise<{ partner: PartnerRecord; created: boolean }> {
  const code = cleanCode(pathCode, 'partner');
  const gln = given.gln || null;
  if (gln !== null && !(gln.length === 13 && hasGoodCheckDigit(gln))) {
    throw new Problem(422, 'The GLN is wrong', [
      {
        code: 'number.malformed',
        path: 'gln',
        number: gln,
        message: `GLN ${shown(gln)} is not 13 digits with a right check digit.`
      }
    ]);
  }
  const { name, supplier, customer, warrantyMonths } = given;
  const { address = null, contact = null, language = null } = given;
  const [row] = await sql<{ created: boolean }[]>`
    INSERT INTO partner (
      code, name, supplier, customer, gln, address, contact, language, warranty_months
    )
    VALUES (
      ${code}, ${name}, ${supplier}, ${customer}, ${gln}, coalesce(${address}, ''),
        coalesce(${contact}, ''), coalesce(${language}, 'en'), ${warrantyMonths ?? null}
    )
    ON CONFLICT (upper(code)) DO UPDATE SET name = excluded.name, supplier = excluded.supplier,
      customer = excluded.customer, gln = excluded.gln,
      address = coalesce(${address}, partner.address),
      contact = coalesce(${contact}, partner.contact),
      language = coalesce(${language}, partner.language)
      ${warrantyMonths === undefined ? sql`` : sql`, warranty_months = excluded.warranty_months`}
    RETURNING (xmax = 0) AS created
  `;
  return { partner: (await readPartner(sql, code))!, created: row!.created };
}

export async function readPlace(db: Db, code: string): Promise<PlaceRecord | null> {
  const [row] = await db<PlaceRecord[]>`
    SELECT ${placeColumns(db)}
    FROM place p
      JOIN site s ON s.id = p.site_id
    WHERE upper(p.code) = ${numberKey(code)}
  `;
  return row ?? null;
}

/**
 * Sets a place up or changes it; a site not known yet is made with its code as its name. @throws
 * Problem 422
 */
export async function putPlace(
  sql: Sql | Tx,
  pathCode: string,
  given: z.infer<typeof Place>
): Promise<{ place: PlaceRecord; created: boolean }> {
  const code = cleanCode(pathCode, 'place');
  refuseWay(code);
  const siteCode = cleanCode(given.site, 'site');
  const { name, kind } = given;
  return await within(sql, async (tx) => {
    await tx`
      INSERT INTO site (code, name)
      VALUES (${siteCode}, ${siteCode})
      ON CONFLICT (upper(code)) DO NOTHING
    `;
    const [site] = await tx<
      { id: number }[]
    >`SELECT id FROM site WHERE upper(code) = ${numberKey(siteCode)}`;
    await staysWithItsGoods(tx, code, site!.id);
    await staysFreeOrNot(tx, code, kind);
    const [row] = await tx<{ created: boolean }[]>`
      INSERT INTO place (code, name, kind, site_id)
      VALUES (${code}, ${name}, ${kind ?? 'rack'}, ${site!.id})
      ON CONFLICT (upper(code)) DO UPDATE SET name = excluded.name,
        kind = coalesce(${kind ?? null}, place.kind), site_id = excluded.site_id
      RETURNING (xmax = 0) AS created
    `;
    return { place: (await readPlace(tx, code))!, created: row!.created };
  });
}

/**
 * A place that holds goods stays at its site: moving it would move them, and nobody booked that.
 * @throws Problem 409 where it lies elsewhere and holds something
 */
async function staysWithItsGoods(tx: Tx, code: string, site: number): Promise<void> {
  const [held] = await tx<{ id: number; site: string; marks: number }[]>`
    SELECT c.id, s.code AS site, (
      SELECT count(*)::int FROM stock k WHERE k.place_id = c.id AND k.quantity > 0
    ) AS marks
    FROM place c
      JOIN site s ON s.id = c.site_id
    WHERE upper(c.code) = ${numberKey(code)} AND c.site_id <> ${site}
    FOR UPDATE OF c
  `;
  if (!held || held.marks === 0) return;
  throw new Problem(409, 'The place holds goods', [
    {
      code: 'place.unknown',
      path: 'site',
      number: shown(code),
      message: `${held.marks} ${held.marks === 1 ? 'lot or serial lies' : 'lots and serials lie'} at ${shown(code)}, at site ${shown(held.site)}. Move them first, or make a new place at the other site.`
    }
  ]);
}

/** Codes of ways are those of transfers, and of no place that is set up. @throws Problem 422 */
function refuseWay(code: string): void {
  if (!isWay(code)) return;
  throw new Problem(422, 'The code cannot be used', [
    {
      code: 'place.unknown',
      path: 'code',
      number: shown(code),
      message: `A code like ${shown(code)} is the way of a transfer. Give the place another code.`
    }
  ]);
}

/**
 * A place that holds goods becomes no quarantine, and is none no longer, by a tick in Setup: that
 * would set free, or bind, what lies there, and nobody decided it.
 * @throws Problem 409 where it holds something
 */
async function staysFreeOrNot(tx: Tx, code: string, kind: string | undefined): Promise<void> {
  if (kind === undefined) return;
  const [held] = await tx<{ kind: string; marks: number }[]>`
    SELECT c.kind, (
      SELECT count(*)::int FROM stock k WHERE k.place_id = c.id AND k.quantity > 0
    ) AS marks
    FROM place c
    WHERE upper(c.code) = ${numberKey(code)}
      AND (c.kind = 'quarantine') <> (${kind} = 'quarantine')
    FOR UPDATE OF c
  `;
  if (!held || held.marks === 0) return;
  const lie = held.marks === 1 ? 'lot or serial lies' : 'lots and serials lie';
  const what = held.kind === 'quarantine' ? 'would be free' : 'would be free for nothing';
  throw new Problem(409, 'The place holds goods', [
    {
      code: 'place.quarantine',
      path: 'kind',
      number: shown(code),
      message: `${held.marks} ${lie} at ${shown(code)} and ${what}. Move them first.`
    }
  ]);
}
