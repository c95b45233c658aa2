import { messagesOf, sendForFile } from '../api.ts';
import type { ShownList } from '../../../core/tables/shown-list.ts';

/** A list with what the screen it is from is called. */
export type AskedList = ShownList & { screen: string };

/**
 * Opens a list as a paper beside the screen, from where it is printed.
 * @returns why it cannot be had; empty where it can
 */
export const showPaper = (list: AskedList): Promise<string> =>
  handOut(list, 'pdf', (link) => (link.target = '_blank'));

/** Keeps a list as a file. @returns why it cannot be had; empty where it can */
export const keepFile = (list: AskedList, format: 'csv' | 'xlsx'): Promise<string> =>
  handOut(list, format, (link) => (link.download = `${fileName(list.title)}.${format}`));

async function handOut(
  list: AskedList,
  format: 'pdf' | 'csv' | 'xlsx',
  use: (link: HTMLAnchorElement) => void
): Promise<string> {
  const reply = await sendForFile('POST', '/lists', { ...list, format });
  // A refusal without errors is its title alone.
  if (!reply.ok)
    return [...new Set([reply.refusal.title, ...messagesOf(reply.refusal)])].join('. ');
  const link = document.createElement('a');
  link.href = URL.createObjectURL(reply.body);
  use(link);
  link.click();
  // What was opened or kept has its own hold on it by then.
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
  return '';
}

const fileName = (title: string): string =>
  title
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '') || 'list';
