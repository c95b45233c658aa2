import { codeKey } from '../../core/ledger/snapshot.ts';
import { keyOfNumber } from '../../core/numbers/number.ts';

/** Numbers no mark can have are not asked for; the decision tells of them. */
export const askable = (text: string | undefined): text is string =>
  text !== undefined && keyOfNumber(text) !== null;

/** The codes of a list, each once: ten thousand lines name a handful of products. */
export const distinctCodes = (texts: readonly string[]): string[] => [
  ...new Set([...new Set(texts)].filter(askable).map(codeKey))
];
