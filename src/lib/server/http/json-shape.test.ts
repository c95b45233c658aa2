import fc from 'fast-check';
import { expect, test } from 'vitest';
import { JsonShape } from './json-shape.ts';

/** What is wrong with a text, read so many characters at a time. */
function faultOf(text: string, atOnce = text.length): string | null {
  const shape = new JsonShape(text);
  while (!shape.isRead) {
    const wrong = shape.read(atOnce);
    if (wrong !== null) return wrong;
  }
  return null;
}

test('the shape is judged outside of strings only', () => {
  expect(faultOf(JSON.stringify({ a: '['.repeat(100) }))).toBeNull();
  expect(faultOf(JSON.stringify({ a: `\\"${'{'.repeat(100)}` }))).toBeNull();
  expect(faultOf(`${'['.repeat(41)}${']'.repeat(41)}`)).toContain('40 levels');
  expect(faultOf(`${'['.repeat(40)}${']'.repeat(40)}`)).toBeNull();
  // A list may be long, an object may not; one after the other is neither.
  expect(faultOf(JSON.stringify(Array.from({ length: 30_000 }, () => ({ a: 1 }))))).toBeNull();
});

test('an object may have twenty thousand members, and no more', () => {
  const members = (count: number): string =>
    JSON.stringify(Object.fromEntries(Array.from({ length: count }, (_, n) => [`k${n}`, n])));
  expect(faultOf(members(20_000))).toBeNull();
  expect(faultOf(members(20_001))).toContain('20000 members');
});

/** Strings of what could be taken for shape. */
const sign = fc.constantFrom('"', '\\', '[', '{', ']', '}', ',', 'ü', 'a');
const odd = fc.string({ unit: sign });

/** How deep a value is nested, told by going through it. */
function depthOf(value: unknown): number {
  if (typeof value !== 'object' || value === null) return 0;
  return 1 + Math.max(0, ...Object.values(value).map(depthOf));
}

test('whatever stands in strings, wherever a stretch ends, it is as deep as it is', () => {
  const key = fc.oneof(odd, fc.constant('k'));
  const { tree } = fc.letrec<{ tree: unknown }>((tie) => ({
    tree: fc.oneof(
      { depthSize: 'small' },
      odd,
      fc.array(tie('tree'), { maxLength: 3 }),
      fc.dictionary(key, tie('tree'), { maxKeys: 3 })
    )
  }));
  fc.assert(
    fc.property(
      tree,
      fc.nat({ max: 50 }),
      fc.integer({ min: 1, max: 9 }),
      (inner, more, atOnce) => {
        let value = inner;
        for (let n = 0; n < more; n++) value = [value];
        const isTooDeep = depthOf(value) > 40;
        const fault = faultOf(JSON.stringify(value), atOnce);
        expect(fault === null).toBe(!isTooDeep);
      }
    )
  );
});
