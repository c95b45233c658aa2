import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { carbonSheet, componentsUsed, sourcesOf } from './carbon-sheet.mjs';

const WHOLE = readFileSync('node_modules/carbon-components-svelte/css/all.css', 'utf8');
const classesIn = (text: string): Set<string> =>
  new Set([...text.matchAll(/bx--[a-z0-9-]*[a-z0-9]/g)].map(([name]) => name));

const LEAN = await carbonSheet(WHOLE);
const IN_LEAN = classesIn(LEAN);

const selectorsOf = (css: string): string[] =>
  css
    .split('{')
    .map((before) => before.slice(before.lastIndexOf('}') + 1))
    .flatMap((selectors) => selectors.split(','));

describe('Carbon’s sheet as it is sent', () => {
  it('is a small part of the whole, with nothing from elsewhere', () => {
    expect(LEAN.length).toBeLessThan(WHOLE.length / 4);
    expect(LEAN).not.toContain('@font-face');
    expect(LEAN).not.toMatch(/url\(["']?https?:/);
    expect(IN_LEAN).not.toContain('bx--data-table');
  });

  it('has a rule for every class that a component in use names and the whole has one for', () => {
    const sources = sourcesOf(componentsUsed()).map((path) => readFileSync(path, 'utf8'));
    const named = classesIn(sources.join('\n'));
    // Of a rule for several classes at once, all have to be on a screen.
    const ofScreens = selectorsOf(WHOLE)
      .map((selector) => [...classesIn(selector)])
      .filter((classes) => classes.every((name) => named.has(name)));
    const wanted = new Set(ofScreens.flat());
    expect(wanted).toContain('bx--modal-container');
    expect([...wanted].filter((name) => !IN_LEAN.has(name))).toEqual([]);
  });

  it('keeps its rules for plain elements, which our own screens are made of', () => {
    const plain = (css: string): string[] =>
      selectorsOf(css)
        .map((selector) => selector.trim())
        .filter((selector) => /^(p|h[1-3]|ul|ol|table|th|td|button|input)$/.test(selector));
    expect(plain(WHOLE)).toContain('p');
    expect(plain(LEAN)).toEqual(plain(WHOLE));
  });

  it('keeps what a button puts together as it runs', () => {
    for (const kind of ['primary', 'secondary', 'danger', 'ghost'])
      expect(IN_LEAN).toContain(`bx--btn--${kind}`);
  });

  it('knows what is used from our own screens, and what that is made of', () => {
    expect(componentsUsed()).toContain('Modal');
    expect(sourcesOf(['Modal']).some((path) => path.endsWith('Close.svelte'))).toBe(true);
    expect(sourcesOf(['Modal']).some((path) => path.includes('DataTable'))).toBe(false);
  });
});
