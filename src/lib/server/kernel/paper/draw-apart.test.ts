import { expect, test } from 'vitest';
import type { LabelMark } from '../../../core/labels/label.ts';
import { problemOf } from '../../testing/caught.ts';
import { drawLabels, labelsPdf } from '../../stock/papers/labels.ts';

const labels = (count: number): LabelMark[] =>
  Array.from({ length: count }, (_, n) => ({
    ...{ id: n, kind: 'serial', number: `TN-${n}`, lot: null, product: 'TN150', name: 'Tern 150' },
    ...{ gtin: '09506000134352', expires: null, supplierNumber: null, facts: [] }
  }));
/** Letters of the page's content, without what differs from drawing to drawing. */
const pagesOf = (pdf: Uint8Array): number =>
  Buffer.from(pdf).toString('latin1').split('/Type /Page\n').length - 1;

test('a paper drawn apart is the one that is drawn here', async () => {
  const [apart, here] = await Promise.all([
    labelsPdf(labels(3), 'datamatrix', '50x25', 1),
    drawLabels(labels(3), 'datamatrix', '50x25', 1)
  ]);
  expect(Buffer.from(apart.subarray(0, 5)).toString()).toBe('%PDF-');
  expect(pagesOf(apart)).toBe(pagesOf(here));
  expect(apart.length).toBe(here.length);
});

test('while a large one is drawn others are served', async () => {
  let served = 0;
  const serving = setInterval(() => served++, 10);
  await labelsPdf(labels(200), 'datamatrix', '50x25', 2);
  clearInterval(serving);
  expect(served).toBeGreaterThan(5);
});

test('what cannot be drawn is told to whoever asked, and the next is drawn', async () => {
  const broken = labelsPdf([null as never], 'datamatrix', '50x25', 1);
  await expect(broken).rejects.toThrow(/^Paper labels/);
  expect((await labelsPdf(labels(1), 'datamatrix', '50x25', 1)).length).toBeGreaterThan(500);
});

test('so many wait, and more are sent away', async () => {
  const asked = Array.from({ length: 40 }, () =>
    labelsPdf(labels(1), 'datamatrix', '50x25', 1).then(
      () => 200,
      async (error: unknown) => (await problemOf(Promise.reject(error))).status
    )
  );
  const statuses = await Promise.all(asked);
  expect(statuses.filter((status) => status === 200)).toHaveLength(31);
  expect(statuses.filter((status) => status === 503)).toHaveLength(9);
});
