import { expect, test } from 'vitest';
import { ownPath } from './own-path.ts';

const here = new URL('https://earmark.example/sign-in?to=x');

test.each([
  ['/receive/PO-1?tab=lines#row', '/receive/PO-1?tab=lines#row'],
  ['/', '/'],
  [null, '/'],
  ['', '/'],
  ['receive', '/'],
  ['//evil.example', '/'],
  ['/\\evil.example', '/'],
  ['/\t/evil.example', '/'],
  ['/\n/evil.example', '/'],
  ['\t//evil.example', '/'],
  ['https://evil.example/', '/'],
  ['javascript:alert(1)', '/'],
  ['/%09/evil.example', '/%09/evil.example']
])('%j goes on to %j', (to, path) => expect(ownPath(here, to)).toBe(path));

test('whatever it is, a browser stays with us', () => {
  const odd = ['/', '\\', '\t', '\n', '\r', ' ', 'e', '.', ':', '@', '?', '#', '\u0000'];
  for (const a of odd)
    for (const b of odd)
      for (const c of odd)
        for (const d of odd) {
          const to = `${a}${b}${c}${d}evil.example/x`;
          expect(new URL(ownPath(here, to), here).origin).toBe(here.origin);
        }
});
