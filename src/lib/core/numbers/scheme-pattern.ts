import type { CheckMethod } from './check-character.ts';
import type { Segment } from './scheme.ts';

/**
 * A numbering scheme as one line of text, as it stands in a spreadsheet: `RS-{year 2}{week}-{count
 * 4}`. What is not in braces stands in the number as it is.
 */
export function writePattern(segments: readonly Segment[]): string {
  return segments.map(writeSegment).join('');
}

function writeSegment(segment: Segment): string {
  if (segment.kind === 'text') return segment.text;
  if (segment.kind === 'year') return `{year ${segment.digits}}`;
  if (segment.kind === 'counter')
    return `{count ${segment.width}${segment.letters ? ' letters' : ''}}`;
  if (segment.kind === 'check') return `{check ${segment.method}}`;
  return `{${segment.kind}}`;
}

export type PatternReading = { ok: true; segments: Segment[] } | { ok: false; why: string };

/** Reads a scheme from one line of text. */
export function readPattern(text: string): PatternReading {
  const segments: Segment[] = [];
  for (const part of text.trim().split(/(\{[^{}]*\})/)) {
    if (part === '') continue;
    const segment = part.startsWith('{') ? readSegment(part.slice(1, -1).trim()) : asText(part);
    if (segment === null) return { ok: false, why: unknown(part) };
    segments.push(segment);
  }
  return segments.length > 0 ? { ok: true, segments } : { ok: false, why: 'it is empty' };
}

const asText = (text: string): Segment | null =>
  /[{}]/.test(text) ? null : { kind: 'text', text };

const unknown = (part: string): string =>
  `“${part}” is no part of a number. Parts are {site}, {product}, {shift}, {year 2}, {year 4}, {week}, {day-of-year}, {date}, {count 5}, {count 4 letters}, {check mod10}, {check mod11-2}, {check mod37-36}`;

const PLAIN = new Set(['site', 'product', 'shift', 'week', 'day-of-year', 'date']);
const CHECKS = new Set<string>(['mod10', 'mod11-2', 'mod37-36'] satisfies CheckMethod[]);

function readSegment(text: string): Segment | null {
  const [kind = '', first = '', second = ''] = text.toLowerCase().split(/\s+/);
  if (PLAIN.has(kind)) return { kind } as Segment;
  if (kind === 'year' && (first === '2' || first === '4'))
    return { kind: 'year', digits: first === '2' ? 2 : 4 };
  if (kind === 'count' && /^\d{1,2}$/.test(first))
    return { kind: 'counter', width: Number(first), letters: second === 'letters' };
  if (kind === 'check' && CHECKS.has(first)) return { kind: 'check', method: first as CheckMethod };
  return null;
}
