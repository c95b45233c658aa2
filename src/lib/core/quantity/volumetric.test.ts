import { describe, expect, it } from 'vitest';
import { TRANSPORT_MODES, volumetricWeight } from './volumetric.ts';

const box = (lengthCm: string | null, widthCm: string | null, heightCm: string | null) => ({
  lengthCm,
  widthCm,
  heightCm
});

// Practice of carriers (standards.md): length × width × height in cm ÷ 3000 … 6000 by mode, in kg.
describe('volumetric weight', () => {
  it('divides by what the mode divides by', () => {
    expect(volumetricWeight(box('60', '40', '30'), 'air')).toBe('12');
    expect(volumetricWeight(box('60', '40', '30'), 'courier')).toBe('14.4');
    expect(volumetricWeight(box('60', '40', '30'), 'road')).toBe('24');
  });
  it('stays within the practice of 3000 to 6000 for every mode', () => {
    for (const divisor of Object.values(TRANSPORT_MODES))
      expect(divisor >= 3000 && divisor <= 6000).toBe(true);
  });
  it('is exact and rounded to the gram', () =>
    expect(volumetricWeight(box('10.5', '10.5', '10.5'), 'air')).toBe('0.193'));
  it('is none where a measure is missing, nothing or no number', () =>
    expect(
      [box(null, '1', '1'), box('0', '1', '1'), box('1', 'x', '1'), box('1', '1', '')].map((one) =>
        volumetricWeight(one, 'air')
      )
    ).toEqual([null, null, null, null]));
});
