import { describe, expect, it } from 'vitest';
import { scanSignals, setScanSignals } from './scan-signal.ts';

function storage(text: string | null = null) {
  let kept = text;
  return {
    getItem: () => kept,
    setItem: (_: string, value: string) => {
      kept = value;
    }
  };
}

describe('what tells a scan', () => {
  it('is silent until it is wished, and stays as it was set', () => {
    const device = storage();
    expect(scanSignals(device)).toEqual({ sound: false, vibration: false });
    setScanSignals(device, { sound: true, vibration: false });
    expect(scanSignals(device)).toEqual({ sound: true, vibration: false });
  });

  it('is silent where what was kept cannot be read', () => {
    expect(scanSignals(storage('{'))).toEqual({ sound: false, vibration: false });
  });
});
