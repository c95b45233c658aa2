import { groupBy } from '../../core/group-by.ts';
import type { Language } from '../../core/papers/language.ts';
import { sayNumberIn } from '../../core/papers/say-in.ts';
import { wordsIn } from '../../core/papers/words.ts';
import { sayAnswer, sayLimit, verdictOf, type Judged, type Spec } from '../../core/quality/spec.ts';
import { readPartner } from '../catalogue/partners-places.ts';
import { limitsFor, readSpecs } from '../catalogue/specs.ts';
import { countingResults, readTests } from '../catalogue/verdicts.ts';
import type { Db } from '../kernel/db/client.ts';
import { expiryOf } from '../kernel/db/what-counts.ts';
import { readFirstZone } from '../kernel/db/zones.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

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
  /** The one its customer read when it was issued; certificates of before are in English. */
  language?: Language;
  customer: string | null;
  customerCode: string | null;
  document: string | null;
  shippedAt: string | null;
  marks: CertifiedMark[];
}
/** A mark as it is read, before anything is judged. */
type MarkRow = { id: number } & Omit<CertifiedMark, 'verdict' | 'rows' | 'tests' | 'specs'>;

/**
 * What a certificate says of marks, in the language its customer reads.
 * @param ids the marks, where no shipment is given
 * @param partner code of the customer whose limits count beside the products' own
 */
export async function contentOf(
  db: Db,
  ids: readonly number[] | null,
  event: { id: number; document: string; at: Date } | null,
  partner: string | null
): Promise<CertificateContent> {
  const marks = await readMarks(db, ids, event?.id ?? null);
  const products = [...new Set(marks.map((mark) => mark.product))];
  const [specs, tests, customer, zone] = await Promise.all([
    readSpecs(db, products),
    readTests(
      db,
      marks.map((mark) => mark.id)
    ),
    partner === null ? null : readPartner(db, partner),
    readFirstZone(db)
  ]);
  const said = { specs, customer: customer?.code ?? null, language: customer?.language ?? 'en' };
  const testsOf = groupBy(tests, (test) => test.mark);
  return {
    zone,
    language: said.language,
    customer: customer?.name ?? null,
    customerCode: customer?.code ?? null,
    document: event?.document ?? null,
    shippedAt: event?.at.toISOString() ?? null,
    marks: marks.flatMap((mark) => certify(mark, testsOf.get(mark.id) ?? [], said))
  };
}

/** Lots and serials named, or all that left on a shipment. */
const readMarks = (
  db: Db,
  ids: readonly number[] | null,
  event: number | null
): Promise<MarkRow[]> => db<MarkRow[]>`
  SELECT m.id, p.code AS product, p.name, p.unit, m.kind, m.number, l.number AS lot,
    coalesce(m.made_on, l.made_on) AS made, ${expiryOf(db)} AS expires,
    ${
      event === null
        ? db`NULL`
        : db`
      (
        SELECT -sum(v.quantity)
        FROM movement v
        WHERE v.event_id = ${event} AND v.mark_id = m.id
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
      m.id IN (SELECT v.mark_id FROM movement v WHERE v.event_id = ${event})
    `
  }
  ORDER BY p.code, m.number_key
  LIMIT 1000
`;

/** Whose limits count, and in which language they are said. */
interface Said {
  specs: Awaited<ReturnType<typeof readSpecs>>;
  customer: string | null;
  language: Language;
}

/** What is certified of a mark: none where nothing limits its product. */
function certify(
  { id: _, ...mark }: MarkRow,
  own: Awaited<ReturnType<typeof readTests>>,
  { specs, customer, language }: Said
): CertifiedMark[] {
  const spec: Spec | null = limitsFor(specs, mark.product, customer);
  if (!spec || spec.limits.length === 0) return [];
  const { verdict, judged } = verdictOf(spec, countingResults(own, spec));
  const counting = specs.filter(
    (one) => one.product === mark.product && (one.partner === null || one.partner === customer)
  );
  return [
    {
      ...mark,
      quantity: mark.quantity && trimZeros(mark.quantity),
      verdict: verdict ?? 'untested',
      rows: judged.map((one) => sayJudged(one, language)),
      tests: own.map(({ id, takenAt, instrument, who, signedBy, specVersion }) => ({
        ...{ id, takenAt, instrument, who, signedBy, specVersion }
      })),
      specs: counting.map((one) => ({ whose: one.partner ?? 'product', version: one.version }))
    }
  ];
}

function sayJudged(
  { limit, result, verdict }: Judged,
  language: Language
): CertifiedMark['rows'][number] {
  const words = wordsIn(language).certificate.limits;
  const number = (text: string): string => sayNumberIn(text, language);
  const answer = result ? number(sayAnswer(limit.kind, result.value, words)) : '';
  return {
    ...{ name: limit.name, limit: sayLimit(limit, words, number), verdict },
    result: result?.unit ? `${answer} ${result.unit}` : answer
  };
}
