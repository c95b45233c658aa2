import type { Right } from '../people/rights.ts';

/** What an act is done to; nothing where it only opens a screen. */
export type ActOn = 'mark' | 'serial' | 'place' | 'purchase' | 'sales' | 'work' | null;

/** Something that is done, as it is typed into the scan field: `count rack C1`, `recall BOB-2511`. */
export interface Act {
  /** The word it begins with, and others that mean the same. */
  words: readonly string[];
  /** What it says before what it is done to. */
  says: string;
  on: ActOn;
  right: Right;
  /** Where it is done. @param of the id of the mark, or the code or number of the other */
  href: (of: string) => string;
}

const at =
  (before: string, after = '') =>
  (of: string) =>
    `${before}${encodeURIComponent(of)}${after}`;
const to = (href: string) => () => href;

/** In the order they are offered. */
export const ACTS: readonly Act[] = [
  act(['count'], 'Count', 'place', 'count', at('/count?place=')),
  act(['move'], 'Move everything at', 'place', 'book.move', at('/move?place=')),
  act(['recall'], 'Recall', 'mark', 'recall', at('/recall/new?mark=')),
  act(['where', 'trace'], 'Where it all went:', 'mark', 'trace', at('/trace/')),
  act(
    ['from', 'origin'],
    'Where it came from:',
    'mark',
    'trace',
    at('/trace/', '?direction=upstream')
  ),
  act(['hold', 'block'], 'Hold', 'mark', 'decide.quality', at('/marks/', '?do=hold')),
  act(['release'], 'Release', 'mark', 'decide.quality', at('/marks/', '?do=release')),
  act(['amend'], 'Amend', 'mark', 'amend', at('/marks/', '?do=amend')),
  act(['scrap'], 'Scrap', 'mark', 'book.scrap', at('/marks/', '?do=scrap')),
  act(['print', 'label', 'labels'], 'Labels of', 'mark', 'print', at('/labels?mark=')),
  act(['return'], 'Take back', 'mark', 'book.return', at('/returns?mark=')),
  act(['repack'], 'Repack', 'mark', 'book.repack', at('/repack?marks=')),
  act(['swap', 'fit'], 'Swap parts of', 'serial', 'book.repack', at('/fit/')),
  act(['teardown'], 'Take apart', 'serial', 'book.repack', at('/teardown/')),
  act(['receive'], 'Receive', 'purchase', 'book.receive', at('/receive/')),
  act(['build'], 'Build', 'work', 'book.build', at('/build/')),
  act(['ship'], 'Ship', 'sales', 'book.ship', at('/ship/')),
  act(['pick'], 'Pick', 'sales', 'book.ship', at('/ship/', '/pick')),
  act(['pack'], 'Pack', 'sales', 'book.ship', at('/ship/', '/pack')),
  opens(['purchase'], 'New purchase order', 'edit.orders', '/orders/new?kind=purchase'),
  opens(['sales', 'sell'], 'New sales order', 'edit.orders', '/orders/new?kind=sales'),
  opens(['work'], 'New work order', 'edit.orders', '/orders/new?kind=work'),
  opens(['product'], 'New product', 'edit.catalogue', '/setup/products/new'),
  opens(['recall'], 'New recall', 'recall', '/recall/new'),
  opens(['job', 'service'], 'Take a unit in for service', 'service', '/service/new'),
  opens(['count'], 'Counts', 'count', '/count'),
  opens(['move'], 'Move goods', 'book.move', '/move'),
  opens(['put'], 'Put away', 'book.move', '/put-away'),
  opens(['return'], 'Returns', 'book.return', '/returns'),
  opens(['loose'], 'Loose ends', 'read', '/loose-ends'),
  opens(['value'], 'What stock is worth', 'see.costs', '/value'),
  opens(['lately', 'history'], 'What was booked lately', 'read', '/history')
];

function act(
  words: readonly string[],
  says: string,
  on: ActOn,
  right: Right,
  href: Act['href']
): Act {
  return { words, says, on, right, href };
}

function opens(words: readonly string[], says: string, right: Right, href: string): Act {
  return act(['new', ...words], says, null, right, to(href));
}

/** Words between the act and what it is done to, which people say and nobody needs. */
const FILLING = /^(?:the|rack|place|lot|serial|unit|order|of|for|everything|at)\s+/i;

export interface ActAsked {
  act: Act;
  /** What it is to be done to, as it was typed; empty where nothing is said yet. */
  of: string;
}

/**
 * The acts a text may ask for: those whose word it begins with, with what is said after it. What
 * opens a screen is found by any beginning of its words: `new sales`, `loose`.
 * @param text as typed, at least two letters of a word
 */
export function readActs(text: string): ActAsked[] {
  const [first = '', ...others] = text.trim().toLowerCase().split(/\s+/);
  if (first.length < 2) return [];
  const said = text.trim().slice(first.length).trim();
  return ACTS.flatMap((one): ActAsked[] => {
    if (!one.words.some((word) => word.startsWith(first))) return [];
    if (one.on === null) return isMeant(one, others) ? [{ act: one, of: '' }] : [];
    // A word that is not whole is no act yet where something follows it: a number may begin so.
    if (said !== '' && !one.words.includes(first)) return [];
    return [{ act: one, of: withoutFilling(said) }];
  });
}

const isMeant = (one: Act, others: readonly string[]): boolean =>
  others.every((word) =>
    one.says
      .toLowerCase()
      .split(/\s+/)
      .some((of) => of.startsWith(word))
  );

function withoutFilling(text: string): string {
  const rest = text.replace(FILLING, '');
  return rest === text ? text : withoutFilling(rest);
}
