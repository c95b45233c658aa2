/** What is no part of what a list says: what can be pressed, and what is drawn beside the words. */
const SILENT =
  'script, style, svg, button, select, a.act, [aria-hidden="true"], .visually-hidden, [type="checkbox"], [type="radio"]';

/**
 * What an element says, in one line: its words and what is typed into its fields.
 * @param apart what stands between its parts
 */
export function textOf(element: Element, apart = ' '): string {
  const parts = [...element.childNodes].map((node) => partOf(node)).filter((text) => text !== '');
  return tidy(parts.join(apart));
}

function partOf(node: Node): string {
  if (node.nodeType === 3) return tidy(node.nodeValue ?? '');
  if (node.nodeType !== 1) return '';
  const element = node as Element;
  if (element.matches(SILENT)) return '';
  if (element.matches('input, textarea')) return (element as HTMLInputElement).value.trim();
  return textOf(element);
}

/**
 * Words that were set apart by lines of the page stand apart by one space, and none before a mark. A
 * tick is drawn beside words that say the same, and a paper has no letter for it.
 */
const tidy = (text: string): string =>
  text
    .replaceAll('✓', '')
    .replace(/\s+/g, ' ')
    .replace(/ ([,.;:)])/g, '$1')
    .trim();
