import { describe, expect, it } from 'vitest';
import { storage } from '../testing/storage.ts';
import { forgetSeen, keepSeen, latelySeen } from './lately-seen.ts';

describe('what was looked at lately', () => {
  it('is the last first, each once, and no more than are worth a look', () => {
    const here = storage();
    for (let n = 1; n <= 10; n++)
      keepSeen(here, 'ines', { title: `L-${n} · Earmark`, href: `/marks/${n}` });
    keepSeen(here, 'ines', { title: 'L-9 · Earmark', href: '/marks/9?do=hold' });
    const seen = latelySeen(here, 'ines');
    expect(seen).toHaveLength(8);
    expect(seen[0]).toEqual({ title: 'L-9', href: '/marks/9' });
    expect(seen[1]).toEqual({ title: 'L-10', href: '/marks/10' });
  });
  it('has things and not lists', () => {
    const here = storage();
    for (const href of ['/receive', '/setup/products', '/recall/new', '/trace/common', '/'])
      keepSeen(here, 'ines', { title: 'A list · Earmark', href });
    expect(latelySeen(here, 'ines')).toEqual([]);
  });
  it('is of one person, and gone when they sign out', () => {
    const here = storage();
    keepSeen(here, 'ines', { title: 'L-1 · Earmark', href: '/marks/1' });
    expect(latelySeen(here, 'tomas')).toEqual([]);
    keepSeen(here, 'tomas', { title: 'L-2 · Earmark', href: '/marks/2' });
    expect(latelySeen(here, 'ines')).toEqual([]);
    forgetSeen(here);
    expect(latelySeen(here, 'tomas')).toEqual([]);
  });
  it('passes over what cannot be read', () => {
    const here = storage();
    here.setItem('lately-seen', '{"half');
    expect(latelySeen(here, 'ines')).toEqual([]);
  });
});
