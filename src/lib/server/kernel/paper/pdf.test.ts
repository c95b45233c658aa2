import { expect, test, vi } from 'vitest';
import { fitted, mm, newPdf } from './pdf.ts';
import { Paper } from './paper.ts';

test('a text is cut at the last letter that fits', () => {
  const doc = newPdf({ title: 'x' });
  const text = 'Skarrow Ferries, north pier, third berth from the light';
  const cut = fitted(doc, text, mm(40));
  expect(text.startsWith(cut.slice(0, -1))).toBe(true);
  expect(fitted(doc, cut, mm(40))).toBe(cut);
  const longer = `${text.slice(0, cut.length)}…`;
  expect(fitted(doc, longer, mm(40))).not.toBe(longer);
  expect(fitted(doc, 'short', mm(40))).toBe('short');
});

test('however long it is, it is measured a few times and not letter by letter', () => {
  const doc = newPdf({ title: 'x' });
  const measured = vi.spyOn(doc, 'widthOfString');
  expect(fitted(doc, 'x'.repeat(100_000), mm(40)).length).toBeLessThan(100);
  expect(measured.mock.calls.length).toBeLessThan(30);
  expect(Math.max(...measured.mock.calls.map(([text]) => text.length))).toBeLessThan(600);
});

test('a word longer than a line goes on in the next, whole', async () => {
  const paper = new Paper('Notice', 'N');
  const drawn = vi.spyOn(paper.doc, 'text');
  const word = Array.from({ length: 3_999 }, (_, n) => 'abcdefghij'[n % 10]).join('');
  paper.paragraph(`before ${word} after`);
  const lines = drawn.mock.calls.map(([text]) => String(text)).join('');
  expect(lines.replaceAll(' ', '')).toContain(word);
  expect((await paper.end('N')).length).toBeGreaterThan(1_000);
});
