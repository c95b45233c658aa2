import { apart } from '../../kernel/paper/draw-apart.ts';
import { expiryOf } from '../../kernel/db/what-counts.ts';
import { certificateName } from '../../../core/quality/certificate-name.ts';
import { sayDay } from '../../../core/calendar/say-day.ts';
import { sayLimit, verdictOf, type Spec } from '../../../core/quality/spec.ts';
import { numberKey, shown } from '../../../core/numbers/number.ts';
import { groupBy } from '../../../core/group-by.ts';
import type { Actor } from '../../kernel/actor.ts';
import { requireRight } from '../../kernel/rights.ts';
import { notFound, Problem } from '../../kernel/problem.ts';
import { limitsFor, readSpecs } from '../../catalogue/specs.ts';
import { within, type Db, type Sql, type Tx } from '../../kernel/db/client.ts';
import { requireSignature } from '../../people/require-signature.ts';
import { keepSigned, readSigned, type SignatureShown } from '../../people/signatures.ts';
import { trimZeros } from '../../kernel/quantity-text.ts';
import { countingResults, readTests } from '../../catalogue/verdicts.ts';
import { INK, Paper, RUST, sayInstantAt, SOFT } from '../../kernel/paper/paper.ts';
import { fitted, mm, writeAt } from '../../kernel/paper/pdf.ts';

/** One mark of a certificate, with all that is said of it, as it stood when it was issued. */
export interface CertifiedMark {
  product: string;
  name: string;
  kind: string;
  number: string;
  lot: string | null;
  made: string | null;
  expires: string | null;
  quantity: string | null;
  unit: string;
  verdict: string;
  rows: { name: string; limit: string; result: string; verdict: string }[];
  tests: {
    id: number;
    takenAt: string;
    instrument: string;
    who: string;
    signedBy: string | null;
    specVersion: number | null;
  }[];
  specs: { whose: string; version: number }[];
}
export interface CertificateContent {
  zone: string;
  customer: string | null;
  customerCode: string | null;
  document: string | null;
  shippedAt: string | null;
  marks: CertifiedMark[];
}
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
  if (content.marks.length === 0)
    throw new Problem(422, 'There is nothing to certify', [
      {
        code: 'mark.unknown',
        path: given.event === undefined ? 'marks' : 'event',
        message:
          'Nothing named here is a lot or serial whose product has a spec. Give the product one under Quality first.'
      }
    ]);
  const untested = content.marks.filter((mark) => mark.verdict === 'untested');
  if (untested.length > 0)
    throw new Problem(
      422,
      'Not everything is tested',
      untested.slice(0, 50).map((mark) => ({
        code: 'mark.off-spec',
        path: 'marks',
        number: shown(mark.number),
        message: `${mark.number} of ${mark.product} has no signed test of ${mark.rows
          .filter((row) => row.verdict === 'untested')
          .map((row) => row.name)
          .join(', ')}. Test it, or have its test signed off.`
      })),
      'No certificate was issued.'
    );
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

interface MarkRow {
  id: number;
  product: string;
  name: string;
  unit: string;
  kind: string;
  number: string;
  lot: string | null;
  made: string | null;
  expires: string | null;
  quantity: string | null;
}

async function contentOf(
  db: Db,
  ids: readonly number[] | null,
  event: { id: number; document: string; at: Date } | null,
  partner: string | null
): Promise<CertificateContent> {
  const marks = await db<MarkRow[]>`
    SELECT m.id, p.code AS product, p.name, p.unit, m.kind, m.number, l.number AS lot,
      coalesce(m.made_on, l.made_on) AS made, ${expiryOf(db)} AS expires,
      ${
        event === null
          ? db`NULL`
          : db`
        (
          SELECT -sum(v.quantity)
          FROM movement v
          WHERE v.event_id = ${event.id} AND v.mark_id = m.id
        )
      `
      } AS quantity
    FROM mark m
      JOIN product p ON p.id = m.product_id
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE m.kind <> 'bulk' AND ${
      event === null
        ? db`m.id = ANY(${ids as number[]})`
        : db`
        m.id IN (SELECT v.mark_id FROM movement v WHERE v.event_id = ${event.id})
      `
    }
    ORDER BY p.code, m.number_key
    LIMIT 1000
  `;
  const specs = await readSpecs(db, [...new Set(marks.map((mark) => mark.product))]);
  const tests = groupBy(
    await readTests(
      db,
      marks.map((mark) => mark.id)
    ),
    (test) => test.mark
  );
  const [customer] =
    partner === null
      ? []
      : await db<
          { code: string; name: string }[]
        >`SELECT code, name FROM partner WHERE upper(code) = ${numberKey(partner)}`;
  const [site] = await db<{ zone: string }[]>`SELECT zone FROM site ORDER BY id LIMIT 1`;
  return {
    zone: site?.zone ?? 'UTC',
    customer: customer?.name ?? null,
    customerCode: customer?.code ?? null,
    document: event?.document ?? null,
    shippedAt: event?.at.toISOString() ?? null,
    marks: marks.flatMap((mark): CertifiedMark[] => {
      const spec: Spec | null = limitsFor(specs, mark.product, customer?.code ?? null);
      if (!spec || spec.limits.length === 0) return [];
      const own = tests.get(mark.id) ?? [];
      const { verdict, judged } = verdictOf(spec, countingResults(own, spec));
      return [
        {
          product: mark.product,
          name: mark.name,
          kind: mark.kind,
          number: mark.number,
          lot: mark.lot,
          made: mark.made,
          expires: mark.expires,
          quantity: mark.quantity && trimZeros(mark.quantity),
          unit: mark.unit,
          verdict: verdict ?? 'untested',
          rows: judged.map((one) => ({
            name: one.limit.name,
            limit: sayLimit(one.limit),
            result: one.result
              ? `${one.result.value}${one.result.unit ? ` ${one.result.unit}` : ''}`
              : '',
            verdict: one.verdict
          })),
          tests: own.map((test) => ({
            id: test.id,
            takenAt: test.takenAt,
            instrument: test.instrument,
            who: test.who,
            signedBy: test.signedBy,
            specVersion: test.specVersion
          })),
          specs: specs
            .filter(
              (one) =>
                one.product === mark.product &&
                (one.partner === null || one.partner === customer?.code)
            )
            .map((one) => ({ whose: one.partner ?? 'product', version: one.version }))
        }
      ];
    })
  };
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

/** Who signed, when and why, after what it means. */
const saySignature = ({ by, at, reason }: SignatureShown, zone: string): string =>
  `${by}, ${sayInstantAt(new Date(at), zone)}: ${reason}`;

/** The certificate as PDF: made of what was kept, so that it reads the same any time later. */
export async function drawCertificate({
  number,
  issuedAt,
  who,
  content,
  signatures
}: Certificate): Promise<Uint8Array> {
  const paper = new Paper('Certificate of analysis', certificateName(number));
  const { doc, left, right } = paper;
  paper.facts([
    ['issued', `${sayInstantAt(new Date(issuedAt), content.zone)}, by ${who}`],
    ...signatures.map((one) => [one.means, saySignature(one, content.zone)] as const),
    ...(content.customer
      ? [['for', `${content.customer} (${content.customerCode})`] as const]
      : []),
    ...(content.document
      ? [
          [
            'with',
            `${content.document}${content.shippedAt ? `, ${sayDay(content.shippedAt.slice(0, 10))}` : ''}`
          ] as const
        ]
      : [])
  ]);
  for (const mark of content.marks) {
    paper.space(70 + mark.rows.length * 13);
    paper.rule(INK);
    const width = writeAt(doc, mark.number, left, paper.y, { face: 'mono', points: 11 });
    writeAt(
      doc,
      fitted(doc, `${mark.product} ${mark.name}`, mm(90), { face: 'bold', points: 10 }),
      left + width + 10,
      paper.y,
      { face: 'bold', points: 10 }
    );
    writeAt(doc, mark.verdict, left, paper.y, {
      face: 'bold',
      points: 10,
      width: right - left,
      align: 'right',
      colour: mark.verdict === 'conforms' ? '#1F6B57' : RUST
    });
    paper.y += 16;
    const facts = [
      mark.lot && mark.kind === 'serial' ? `lot ${mark.lot}` : '',
      mark.quantity ? `${mark.quantity} ${mark.unit}` : '',
      mark.made ? `made ${sayDay(mark.made)}` : '',
      mark.expires ? `expires ${sayDay(mark.expires)}` : '',
      mark.specs
        .map(
          (spec) =>
            `spec of ${spec.whose === 'product' ? mark.product : spec.whose}, version ${spec.version}`
        )
        .join(', ')
    ]
      .filter(Boolean)
      .join(' · ');
    writeAt(doc, fitted(doc, facts, right - left), left, paper.y, { colour: SOFT });
    paper.y += 16;
    for (const row of mark.rows) {
      paper.space(14);
      writeAt(doc, fitted(doc, row.name, mm(60)), left + mm(2), paper.y);
      writeAt(doc, fitted(doc, row.limit, mm(50)), left + mm(66), paper.y, { colour: SOFT });
      writeAt(doc, row.result || 'not tested', left + mm(120), paper.y, {
        face: 'bold',
        colour: row.verdict === 'does not conform' ? RUST : INK
      });
      writeAt(doc, row.verdict, left, paper.y, {
        width: right - left,
        align: 'right',
        colour: row.verdict === 'conforms' ? SOFT : RUST
      });
      paper.y += 13;
    }
    for (const test of mark.tests) {
      paper.space(14);
      writeAt(
        doc,
        fitted(
          doc,
          `test ${test.id}, ${sayInstantAt(new Date(test.takenAt), content.zone)}${test.instrument ? `, ${test.instrument}` : ''}, by ${test.who}${test.signedBy ? `, checked by ${test.signedBy}` : ', not signed off'}`,
          right - left - mm(4),
          { points: 8 }
        ),
        left + mm(2),
        paper.y,
        { points: 8, colour: SOFT }
      );
      paper.y += 11;
    }
    paper.y += 8;
  }
  return paper.end(
    `Certificate ${certificateName(number)} · ${content.marks.length} ${content.marks.length === 1 ? 'mark' : 'marks'}`
  );
}

/** The same, drawn apart. */
export const certificatePdf = apart('certificate', drawCertificate);
