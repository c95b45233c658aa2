import { isDay } from '../../core/calendar/day.ts';
import { shown } from '../../core/numbers/number.ts';
import type { TraceCut } from '../../core/trace/trace-answer.ts';
import { Problem } from '../kernel/problem.ts';

/** Most products or kinds of event a trace leaves out. */
const MOST = 50;

/**
 * Where a trace is cut, as its address says: `until` a day (its end) or an instant, `without`
 * products, `skip` kinds of event.
 * @throws Problem 400 for what cannot be read: a trace that is not cut as asked would claim more
 */
export function readCut(url: URL): TraceCut {
  const until = readUntil(url.searchParams.get('until') ?? '');
  const products = readList(url, 'without');
  const kinds = readList(url, 'skip');
  return {
    ...(until ? { until } : {}),
    ...(products.length > 0 ? { withoutProducts: products } : {}),
    ...(kinds.length > 0 ? { withoutKinds: kinds } : {})
  };
}

function readUntil(text: string): Date | null {
  if (text === '') return null;
  const isDate = /^\d{4}-\d{2}-\d{2}/.test(text) && isDay(text.slice(0, 10));
  const until = new Date(text.length === 10 ? `${text}T23:59:59.999Z` : text);
  if (isDate && !Number.isNaN(until.getTime())) return until;
  refuse('until', text, `“${shown(text)}” is no day and no instant. Give year-month-day.`);
}

function readList(url: URL, name: 'without' | 'skip'): string[] {
  const text = url.searchParams.get(name) ?? '';
  const list = text.split(',').map((one) => one.trim());
  const given = list.filter((one) => one !== '');
  if (given.length > MOST)
    refuse(name, text, `${given.length} are to be left out and ${MOST} are the most.`);
  return given;
}

function refuse(path: string, number: string, message: string): never {
  throw new Problem(400, 'The trace cannot be cut like this', [
    { code: 'request.malformed', path, number: shown(number), message }
  ]);
}
