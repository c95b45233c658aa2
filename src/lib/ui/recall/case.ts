import { OTHER_LANGUAGES, type Language, type OtherLanguage } from '../../core/papers/language.ts';
import { quantity, ZERO } from '../../core/quantity/quantity.ts';
import { OUTCOMES, type AnswerRow, type Standing } from '../../core/recall/standing.ts';

/** What a customer had, by one paper; quantities are decimal strings. */
interface Goods {
  mark: number;
  number: string | null;
  product: string;
  unit: string;
  event: number;
  document: string;
  quantity: string;
}

export interface CustomerOfCase {
  partner: string;
  name: string;
  address: string;
  contact: string;
  /** The one their letters are written in. */
  language: Language;
  rows: readonly Goods[];
}

/** An answer with when it was taken, by whom, and the note to it. */
interface Told extends AnswerRow {
  id: number;
  note: string;
  toldAt: string;
  who: string;
}

interface Letter {
  id: number;
  kind: 'notice' | 'reminder';
  partner: string;
  sentAt: string;
  byItself: boolean;
}

/** What letters say of a case, as customers of one language read it. */
export interface WordsOfCase {
  language: OtherLanguage;
  title: string;
  hazard: string;
  request: string;
}

/** What the customers' step of a case shows of it. */
export interface RecallCase {
  number: string;
  title: string;
  hazard: string;
  request: string;
  words: readonly WordsOfCase[];
  mock: boolean;
  decidedAt: string | null;
  /** Days after which who does not answer is reminded; null for never, by itself. */
  remindDays: number | null;
  customers: readonly CustomerOfCase[];
  standing: Standing;
  notices: readonly Letter[];
  answers: readonly Told[];
}

/** Languages besides English that customers of a case read, with how many read each. */
export function languagesOf(
  customers: readonly Pick<CustomerOfCase, 'language'>[]
): { language: OtherLanguage; readers: number }[] {
  return OTHER_LANGUAGES.map((language) => ({
    language,
    readers: customers.filter((one) => one.language === language).length
  })).filter((one) => one.readers > 0);
}

/** One lot or serial of a customer: what they had in all, and what they told of it. */
export interface GoodsOfMark extends Goods {
  had: string;
  open: string;
  told: readonly Told[];
}

/** What a customer had, a line a mark. */
export function goodsOf(
  { rows, partner }: CustomerOfCase,
  answers: readonly Told[]
): GoodsOfMark[] {
  const marks = new Map(rows.map((row) => [row.mark, row]));
  return [...marks.values()].map((row) => {
    const own = rows.filter((one) => one.mark === row.mark);
    const told = answers.filter((one) => one.partner === partner && one.mark === row.mark);
    const had = own.reduce((sum, one) => sum.plus(one.quantity), ZERO);
    const open = told.reduce((left, one) => left.minus(one.quantity), had);
    return { ...row, had: had.toFixed(), open: open.toFixed(), told };
  });
}

type Typed = Readonly<Record<string, string>>;

/** Key of a cell that is typed into: what became of a mark. */
export const cellOf = (mark: number, outcome: string): string => `${mark} ${outcome}`;

/** The answers that stand in the cells of a customer, as they are sent. */
export const answersTyped = (
  partner: string,
  goods: readonly GoodsOfMark[],
  typed: Typed,
  note: string
): (AnswerRow & { note: string })[] =>
  goods.flatMap(({ mark }) =>
    OUTCOMES.flatMap((outcome) => {
      const amount = typed[cellOf(mark, outcome)]?.trim();
      return amount ? [{ partner, mark, outcome, quantity: amount, note }] : [];
    })
  );

/** Everything that is still open, as returned. */
export const restReturned = (goods: readonly GoodsOfMark[]): Record<string, string> =>
  Object.fromEntries(
    goods
      .filter(({ open }) => quantity(open).gt(ZERO))
      .map(({ mark, open }) => [cellOf(mark, 'returned'), open])
  );
