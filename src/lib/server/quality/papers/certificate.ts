import { sayDayIn, sayInstantIn, sayNumberIn } from '../../../core/papers/say-in.ts';
import { wordsIn, type PaperWords } from '../../../core/papers/words.ts';
import { certificateName } from '../../../core/quality/certificate-name.ts';
import { apart } from '../../kernel/paper/draw-apart.ts';
import { INK, Paper, RUST, SOFT } from '../../kernel/paper/paper.ts';
import { fitted, mm, writeAt } from '../../kernel/paper/pdf.ts';
import type { CertificateContent, CertifiedMark } from '../certificate-content.ts';
import type { Certificate } from '../issue-certificate.ts';

const GOOD = '#1F6B57';

/**
 * The certificate as PDF: made of what was kept, in the language it was issued in, so that it reads
 * the same any time later.
 */
export async function drawCertificate(certificate: Certificate): Promise<Uint8Array> {
  const { number, content } = certificate;
  const language = content.language ?? 'en';
  const words = wordsIn(language);
  const paper = new Paper(words.certificate.title, certificateName(number), language);
  writeHead(paper, certificate, words);
  for (const mark of content.marks) {
    paper.space(70 + mark.rows.length * 13);
    paper.rule(INK);
    writeMark(paper, mark, words);
    for (const row of mark.rows) writeRow(paper, row, words);
    for (const test of mark.tests) writeTest(paper, test, content.zone, words);
    paper.y += 8;
  }
  const marks = words.certificate.marks(content.marks.length);
  return paper.end(`${words.certificate.title} ${certificateName(number)} · ${marks}`);
}

function writeHead(
  paper: Paper,
  { issuedAt, who, content, signatures }: Certificate,
  words: PaperWords
): void {
  const { certificate } = words;
  const at = (iso: string): string => sayInstantIn(new Date(iso), content.zone, paper.language);
  const { customer, customerCode, document } = content;
  paper.facts([
    [certificate.issued, words.by(at(issuedAt), who)],
    // Who signed, when and why, after what it means.
    ...signatures.map(
      (one) => [certificate.signed, `${one.by}, ${at(one.at)}: ${one.reason}`] as const
    ),
    ...(customer ? [[words.for, `${customer} (${customerCode})`] as const] : []),
    ...(document ? [[certificate.with, sayShipment(content, paper)] as const] : [])
  ]);
}

function sayShipment({ document, shippedAt }: CertificateContent, { language }: Paper): string {
  return shippedAt ? `${document}, ${sayDayIn(shippedAt.slice(0, 10), language)}` : document!;
}

function writeMark(paper: Paper, mark: CertifiedMark, words: PaperWords): void {
  const { doc, left, right } = paper;
  const width = writeAt(doc, mark.number, left, paper.y, { face: 'mono', points: 11 });
  const bold = { face: 'bold', points: 10 } as const;
  const name = fitted(doc, `${mark.product} ${mark.name}`, mm(90), bold);
  writeAt(doc, name, left + width + 10, paper.y, bold);
  const colour = mark.verdict === 'conforms' ? GOOD : RUST;
  paper.atRight(sayVerdict(mark.verdict, words), { ...bold, colour });
  paper.y += 16;
  const facts = factsOf(mark, paper, words);
  writeAt(doc, fitted(doc, facts, right - left), left, paper.y, { colour: SOFT });
  paper.y += 16;
}

const sayVerdict = (verdict: string, { certificate }: PaperWords): string =>
  certificate.verdicts[verdict] ?? verdict;

function factsOf(mark: CertifiedMark, { language }: Paper, words: PaperWords): string {
  const { lot, kind, quantity, unit, made, expires } = mark;
  const day = (one: string): string => sayDayIn(one, language);
  const specs = mark.specs.map((spec) =>
    words.certificate.spec(spec.whose === 'product' ? mark.product : spec.whose, spec.version)
  );
  const parts = [
    lot && kind === 'serial' ? words.lot(lot) : '',
    quantity ? `${sayNumberIn(quantity, language)} ${unit}` : '',
    made ? words.made(day(made)) : '',
    expires ? words.expires(day(expires)) : '',
    specs.join(', ')
  ];
  return parts.filter(Boolean).join(' · ');
}

function writeRow(paper: Paper, row: CertifiedMark['rows'][number], words: PaperWords): void {
  const { doc, left } = paper;
  paper.space(14);
  writeAt(doc, fitted(doc, row.name, mm(60)), left + mm(2), paper.y);
  writeAt(doc, fitted(doc, row.limit, mm(50)), left + mm(66), paper.y, { colour: SOFT });
  writeAt(doc, row.result || words.certificate.notTested, left + mm(120), paper.y, {
    face: 'bold',
    colour: row.verdict === 'does not conform' ? RUST : INK
  });
  const colour = row.verdict === 'conforms' ? SOFT : RUST;
  paper.atRight(sayVerdict(row.verdict, words), { colour });
  paper.y += 13;
}

function writeTest(
  paper: Paper,
  test: CertifiedMark['tests'][number],
  zone: string,
  { certificate }: PaperWords
): void {
  const { doc, left, right } = paper;
  const said = [
    certificate.test(test.id),
    sayInstantIn(new Date(test.takenAt), zone, paper.language),
    test.instrument,
    certificate.testedBy(test.who),
    test.signedBy ? certificate.checkedBy(test.signedBy) : certificate.notSigned
  ];
  const small = { points: 8, colour: SOFT };
  const line = fitted(doc, said.filter(Boolean).join(', '), right - left - mm(4), small);
  paper.space(14);
  writeAt(doc, line, left + mm(2), paper.y, small);
  paper.y += 11;
}

/** The same, drawn apart. */
export const certificatePdf = apart('certificate', drawCertificate);
