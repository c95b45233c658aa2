import type { TraceCut } from '../../core/trace/trace-answer.ts';

const list = (text: string | null): string[] =>
  (text ?? '')
    .split(',')
    .map((one) => one.trim())
    .filter(Boolean)
    .slice(0, 50);

/**
 * Where a trace is cut, as its address says: `until` a day (its end) or an instant, `without`
 * products, `skip` kinds of event. What cannot be read cuts nothing.
 */
export function readCut(url: URL): TraceCut {
  const text = url.searchParams.get('until') ?? '';
  const until = /^\d{4}-\d{2}-\d{2}$/.test(text)
    ? new Date(`${text}T23:59:59.999Z`)
    : new Date(text);
  const products = list(url.searchParams.get('without')),
    kinds = list(url.searchParams.get('skip'));
  return {
    ...(text !== '' && !Number.isNaN(until.getTime()) ? { until } : {}),
    ...(products.length > 0 ? { withoutProducts: products } : {}),
    ...(kinds.length > 0 ? { withoutKinds: kinds } : {})
  };
}
