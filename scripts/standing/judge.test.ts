import { expect, it } from 'vitest';
import { judge } from './judge.ts';

const told = (...documents: string[]) => documents.map((document) => ({ document }));

it('finds nothing wrong with what stands once and whole, acknowledged or not', () => {
  const stands = ['A', 'B'].map((document) => ({ document, events: 1, movements: 2 }));
  expect(judge(told('A'), stands, 2)).toEqual({ lost: [], doubled: [], half: [] });
});

it('finds what was acknowledged and is gone, what stands twice, and what is not whole', () => {
  const stands = [
    { document: 'TWICE', events: 2, movements: 4 },
    { document: 'HALF', events: 1, movements: 1 },
    { document: 'EMPTY', events: 1, movements: 0 }
  ];
  expect(judge(told('GONE', 'TWICE'), stands, 2)).toEqual({
    lost: ['GONE'],
    doubled: ['TWICE'],
    half: ['HALF', 'EMPTY']
  });
});
