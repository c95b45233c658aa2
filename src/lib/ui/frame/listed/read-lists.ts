import { withoutEmpty, type ShownList } from '../../../core/tables/shown-list.ts';
import { textOf } from './text-of.ts';

/** In the order they stand: headings, lists, and what is said of a list that is cut. */
const LOOKED_AT = 'h1, h2, h3, table, ul, ol, [role="note"]';

/**
 * The lists of a screen as it shows them, each under the heading that stands above it. A list within
 * another is part of what that one says.
 * @param screen its `main`, or that of a page that was fetched
 */
export function listsOf(screen: Element): ShownList[] {
  const lists: ShownList[] = [];
  let heading = '';
  for (const element of screen.querySelectorAll(LOOKED_AT)) {
    const within = element.parentElement?.closest('table, ul, ol, [role="tablist"], nav');
    if (within && screen.contains(within)) continue;
    const name = element.tagName.toLowerCase();
    if (/^h\d$/.test(name)) heading = headingOf(element);
    else if (element.getAttribute('role') === 'note') noteOn(lists, textOf(element));
    else {
      const list = name === 'table' ? tableOf(element, heading) : plainOf(element, heading);
      if (list.rows.length > 0) lists.push(withoutEmpty(list));
    }
  }
  return lists;
}

/** Which list of a screen is most likely meant: its longest table, or its longest list. */
export function mainOf(lists: readonly ShownList[]): number {
  const tables = lists.filter((list) => list.columns.length > 1);
  const among = tables.length > 0 ? tables : lists;
  const most = Math.max(0, ...among.map((list) => list.rows.length));
  return Math.max(0, lists.indexOf(among.find((list) => list.rows.length === most)!));
}

/** A heading without how many there are, which often stands beside it: a list says that itself. */
function headingOf(element: Element): string {
  const text = textOf(element);
  const last = textOf(element.lastElementChild ?? element);
  const isCount = /^[\d\u2009]+$/.test(last) && last.length < text.length;
  return isCount ? text.slice(0, -last.length).trim() : text;
}

/** What is said below a list is said of it. */
function noteOn(lists: ShownList[], note: string): void {
  const last = lists.at(-1);
  if (last)
    lists[lists.length - 1] = { ...last, note: [last.note, note].filter(Boolean).join(' ') };
}

function tableOf(table: Element, title: string): ShownList {
  const head = table.querySelector('thead tr:last-child');
  const columns = head ? cellsOf(head) : [];
  const rows = [...table.querySelectorAll('tbody > tr')]
    .filter((row) => row.closest('table') === table)
    .map(cellsOf)
    .filter((cells) => cells.some((cell) => cell !== ''));
  const most = Math.max(columns.length, ...rows.map((row) => row.length));
  const filled = (cells: readonly string[]): string[] =>
    Array.from({ length: most }, (_, at) => cells[at] ?? '');
  return { title, columns: filled(columns), rows: rows.map(filled), note: '' };
}

/** The cells of a row; one that spans several is followed by as many empty ones. */
const cellsOf = (row: Element): string[] =>
  [...row.children].flatMap((cell) => {
    const span = Number(cell.getAttribute('colspan') ?? '1');
    return [textOf(cell), ...Array.from({ length: span - 1 }, () => '')];
  });

/** A list without columns: an entry a row, its parts set apart. */
function plainOf(list: Element, title: string): ShownList {
  const entries = [...list.children].map((entry) => textOf(innermost(entry), ' · '));
  const rows = entries.filter((text) => text !== '').map((text) => [text]);
  return { title, columns: [title], rows, note: '' };
}

/** What an entry is wrapped in says nothing: its parts are those of what is inside. */
function innermost(entry: Element): Element {
  const [only] = entry.children;
  const wraps =
    entry.children.length === 1 &&
    [...entry.childNodes].every((node) => node === only || !node.textContent?.trim());
  return wraps && only!.children.length > 0 ? innermost(only!) : entry;
}
