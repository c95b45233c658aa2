import { describe, expect, it } from 'vitest';
import { readElementString } from './element-string.ts';
import { symbolText } from './symbol-text.ts';

const GS = '\u001d';

describe('what a camera reads', () => {
  it('is what a scanner sends of a GS1 DataMatrix', () => {
    // FNC1 in first position: symbology identifier ]d2 (GS1 General Specifications, table of
    // symbology identifiers; from memory).
    const text = symbolText(true, `${GS}010952012345678810L7${GS}21S1`);
    expect(text).toBe(`]d2010952012345678810L7${GS}21S1`);
    expect(readElementString(text, '2026-11-30')).toMatchObject({ ok: true });
  });

  it('is its text where it says all', () => {
    expect(symbolText(true, 'LOT 7')).toBe('LOT 7');
    expect(symbolText(false, ']C10109520123456788')).toBe(']C10109520123456788');
    expect(symbolText(false, 'https://id.earmark.example/01/09520123456788')).toBe(
      'https://id.earmark.example/01/09520123456788'
    );
  });
});
