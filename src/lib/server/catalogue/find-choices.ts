import type { Choice, ChoiceOf } from '../../core/catalogue/choice.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Db } from '../kernel/db/client.ts';
import { beginningWith, codeOrNameHolds } from '../kernel/db/like.ts';

/** Most that are offered at once. */
const MOST = 12;

export interface Choices {
  choices: Choice[];
  /** Whether others hold the text besides: a few letters more find them. */
  more: boolean;
}

/**
 * What a few letters of a code or a name may mean: the code itself first, then codes and names that
 * begin with them, then what holds them; with no letters the first by code.
 */
export async function findChoices(db: Db, of: ChoiceOf, text: string): Promise<Choices> {
  const rows = await db<Choice[]>`
    SELECT p.code, p.name ${columnsOf(db, of)}
    FROM ${isProduct(of) ? db`product p` : db`partner p`}
    WHERE ${codeOrNameHolds(db, text)} AND ${isOne(db, of)}
    ORDER BY upper(p.code) = ${numberKey(text)} DESC,
      p.code ILIKE ${beginningWith(text)} DESC,
      p.name ILIKE ${beginningWith(text)} DESC,
      p.code
    LIMIT ${MOST + 1}
  `;
  return { choices: rows.slice(0, MOST), more: rows.length > MOST };
}

/** What is known of these products, in any case, for a screen that names them already. */
export const productsNamed = (db: Db, codes: readonly string[]): Promise<Choice[]> => db`
  SELECT p.code, p.name ${columnsOf(db, 'product')}
  FROM product p
  WHERE upper(p.code) = ANY(${codes.map(numberKey)})
`;

const isProduct = (of: ChoiceOf): boolean => of.endsWith('product');

function columnsOf(db: Db, of: ChoiceOf): ReturnType<Db> {
  if (!isProduct(of)) return db``;
  return db`
    , p.unit, p.marking,
      ARRAY(
        SELECT u.name FROM product_unit u WHERE u.product_id = p.id ORDER BY u.holds
      ) AS units
  `;
}

function isOne(db: Db, of: ChoiceOf): ReturnType<Db> {
  switch (of) {
    case 'made product':
      return db`p.made`;
    case 'supplier':
      return db`p.supplier`;
    case 'customer':
      return db`p.customer`;
    case 'product':
    case 'partner':
      return db`true`;
  }
}
