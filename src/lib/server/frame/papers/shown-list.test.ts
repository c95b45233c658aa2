import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { paperText } from '../../testing/paper-text.ts';
import { drawShownList, fitInto } from './shown-list.ts';

const NOW = new Date('2026-12-02T09:05:00Z');
const LIST = {
  ...{ title: 'Held, waiting', screen: 'Quality', own: 'Small Works', who: 'Wilf Carrow' },
  note: '2 of 30 lots are listed.'
};

describe('the paper of a list', () => {
  it('says all that is listed, what is not, and of when it is', async () => {
    const rows = [
      ['LOT-1', '12.5 kg', 'swollen in the packet, and so said the supplier on the telephone'],
      ['ŁÓD-2', '3 each', 'α above β']
    ];
    const said = await paperText(
      await drawShownList({ ...LIST, columns: ['Lot', 'How much', 'Why'], rows }, NOW)
    );
    for (const words of [LIST.title, LIST.screen, LIST.own, LIST.who, LIST.note, '2 Dec 2026'])
      expect(said).toContain(words);
    for (const word of rows.flat().flatMap((cell) => cell.split(' '))) expect(said).toContain(word);
    expect(said).toContain('page 1 of 1');
  });

  it('has its headings on every page, and every row', async () => {
    const rows = Array.from({ length: 300 }, (_, at) => [`S-${1000 + at}`, 'jacket']);
    const said = await paperText(
      await drawShownList({ ...LIST, columns: ['Serial', 'Product'], rows }, NOW)
    );
    const pages = Number(/page 1 of (\d+)/.exec(said)![1]);
    expect(pages).toBeGreaterThan(3);
    expect(said.match(/Serial/g)).toHaveLength(pages);
    for (const [serial] of rows) expect(said).toContain(serial);
  });

  it('takes words longer than their column, in as many columns as there may be', async () => {
    const columns = Array.from({ length: 40 }, (_, at) => `Column${at}`);
    const rows = [columns.map((_, at) => 'x'.repeat(at * 8))];
    await expect(drawShownList({ ...LIST, columns, rows }, NOW)).resolves.toBeInstanceOf(
      Uint8Array
    );
  });
});

describe('the widths of columns', () => {
  it('together take no more than there is, and what is small keeps what it wishes', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 1, max: 900, noNaN: true }), { minLength: 1, maxLength: 40 }),
        fc.double({ min: 100, max: 800, noNaN: true }),
        (wished, room) => {
          const given = fitInto(wished, room);
          const sum = given.reduce((all, one) => all + one, 0);
          expect(sum).toBeLessThanOrEqual(room + 1e-6);
          given.forEach((one, at) => {
            expect(one).toBeGreaterThan(0);
            expect(one).toBeLessThanOrEqual(wished[at]! + 1e-6);
            if (wished[at]! <= room / wished.length) expect(one).toBe(wished[at]);
          });
        }
      )
    );
  });
});
