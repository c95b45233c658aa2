import { numberKey, shown } from '../../core/numbers/number.ts';
import type { Actor } from '../kernel/actor.ts';
import { within, type Db, type Sql, type Tx } from '../kernel/db/client.ts';
import { notFound, Problem } from '../kernel/problem.ts';
import { requireRight } from '../kernel/rights.ts';
import { requireSignature } from '../people/require-signature.ts';
import { keepSigned, readSigned, type SignatureShown } from '../people/signatures.ts';
import { contentOf, type CertificateContent } from './certificate-content.ts';

export interface Certificate {
  number: number;
  issuedAt: string;
  who: string;
  content: CertificateContent;
  /** What was signed when it was issued. */
  signatures: SignatureShown[];
}

/**
 * Issues a certificate of analysis for marks, or for everything in a shipment. Its content is kept
 * as it is said now; issues are numbered.
 * @param given either marks by id, or a shipment's event; a partner whose limits count
 * @throws Problem 403, 404, 422 where nothing of it has a spec or a signed test, or its plans ask for
 * a signature and it has none
 */
export async function issueCertificate(
  sql: Sql,
  actor: Actor,
  given: { marks?: number[]; event?: number; partner?: string | null; signature?: string }
): Promise<Certificate> {
  requireRight(actor, 'certify');
  const [event] =
    given.event === undefined
      ? []
      : await sql<{ id: number; document: string; at: Date; partner: string | null }[]>`
        SELECT e.id, e.document, e.happened_at AS at, t.code AS partner
        FROM event e
          LEFT JOIN partner t ON t.id = e.partner_id
        WHERE e.id = ${given.event} AND e.kind = 'ship'
      `;
  if (given.event !== undefined && !event) notFound('shipment', String(given.event));
  const partner = event?.partner ?? given.partner ?? null;
  const content = await contentOf(sql, given.marks ?? null, event ?? null, partner);
  refuseNothing(content, given.event === undefined ? 'marks' : 'event');
  refuseUntested(content);
  const marks = await certifiedIds(sql, content);
  const number = await within(sql, async (tx) => {
    const signature = await requireSignature(tx, actor, {
      act: 'certificate',
      marks,
      document: content.document ?? content.marks[0]!.number,
      signature: given.signature
    });
    const issued = await keepCertificate(tx, actor, content, event?.id ?? null, partner, marks);
    if (signature) await keepSigned(tx, signature, { certificate: issued });
    return issued;
  });
  return (await readCertificate(sql, number))!;
}

/** @throws Problem 422 where nothing named has a spec */
function refuseNothing({ marks }: CertificateContent, path: 'marks' | 'event'): void {
  if (marks.length > 0) return;
  const message =
    'Nothing named here is a lot or serial whose product has a spec. Give the product one under Quality first.';
  throw new Problem(422, 'There is nothing to certify', [{ code: 'mark.unknown', path, message }]);
}

/** @throws Problem 422 naming what has no signed test, and of what */
function refuseUntested({ marks }: CertificateContent): void {
  const untested = marks.filter((mark) => mark.verdict === 'untested');
  if (untested.length === 0) return;
  const errors = untested.slice(0, 50).map((mark) => {
    const open = mark.rows.filter((row) => row.verdict === 'untested').map((row) => row.name);
    const message = `${mark.number} of ${mark.product} has no signed test of ${open.join(', ')}. Test it, or have its test signed off.`;
    return { code: 'mark.off-spec', path: 'marks', number: shown(mark.number), message };
  });
  throw new Problem(422, 'Not everything is tested', errors, 'No certificate was issued.');
}

/** @returns the number it has from now on */
async function keepCertificate(
  tx: Tx,
  actor: Actor,
  content: CertificateContent,
  event: number | null,
  partner: string | null,
  marks: readonly number[]
): Promise<number> {
  const [row] = await tx<[{ number: number }]>`
    WITH issued AS (
      INSERT INTO certificate (event_id, partner_id, content, issued_by)
      VALUES (
        ${event}, (SELECT id FROM partner WHERE code = ${partner}), ${tx.json(content as never)},
          ${actor.personId}
      )
      RETURNING number
    ),
      tied AS (
        INSERT INTO certificate_mark (number, mark_id)
        SELECT i.number, m
        FROM issued i, unnest(${marks as number[]}::bigint[]) m
      )
    SELECT number
    FROM issued
  `;
  return row.number;
}

async function certifiedIds(db: Db, content: CertificateContent): Promise<number[]> {
  const rows = await db<{ id: number }[]>`
    SELECT m.id
    FROM unnest(
      ${content.marks.map((mark) => mark.product)}::text[],
        ${content.marks.map((mark) => mark.kind)}::text[],
        ${content.marks.map((mark) => numberKey(mark.number))}::text[]
    ) AS w (product, kind, key)
      JOIN product p ON p.code = w.product
      JOIN mark m ON m.product_id = p.id AND m.kind = w.kind AND m.number_key = w.key
  `;
  return [...new Set(rows.map((row) => row.id))];
}

/** A certificate as it was issued; null where there is none of that number. */
export async function readCertificate(db: Db, number: number): Promise<Certificate | null> {
  const [row] = await db<
    { number: number; content: CertificateContent; issued_at: Date; who: string }[]
  >`
    SELECT c.number, c.content, c.issued_at, p.name AS who
    FROM certificate c
      JOIN person p ON p.id = c.issued_by
    WHERE c.number = ${number}
  `;
  return row
    ? {
        number: row.number,
        issuedAt: row.issued_at.toISOString(),
        who: row.who,
        content: row.content,
        signatures: await readSigned(db, { certificate: number })
      }
    : null;
}
