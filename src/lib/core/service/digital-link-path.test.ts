import { describe, expect, it } from 'vitest';
import { digitalLink } from '../gs1/write-symbol.ts';
import { readDigitalLinkPath } from './digital-link-path.ts';

// GTIN of the standard's own examples (GS1 Digital Link Standard: URI Syntax, section 4.11).
const GTIN = '09506000134352';

describe('the path of a Digital Link', () => {
  it('names a unit by GTIN and serial, also with its lot and variant before', () => {
    expect(readDigitalLinkPath(GTIN, '21/12345')).toEqual({ gtin: GTIN, serial: '12345' });
    expect(readDigitalLinkPath('9506000134352', '10/ABC/21/12345')).toEqual({
      gtin: GTIN,
      serial: '12345'
    });
    expect(readDigitalLinkPath(GTIN, '22/2A/10/ABC/21/x')).toMatchObject({ serial: 'x' });
  });

  it('names none without a serial, out of order, or with a wrong check digit', () => {
    for (const rest of ['', '10/ABC', '21/', '21', '99/1/21/2', '10/A/22/B/21/2', '10//21/2'])
      expect(readDigitalLinkPath(GTIN, rest), rest).toBeNull();
    expect(readDigitalLinkPath(GTIN, `21/${'9'.repeat(21)}`)).toBeNull();
    expect(readDigitalLinkPath('09506000134353', '21/1')).toBeNull();
    expect(readDigitalLinkPath('1e5', '21/1')).toBeNull();
  });

  it('reads what is written on our own labels', () => {
    const link = digitalLink('https://id.brackwater.example', {
      gtin: GTIN,
      serial: 'TN/1'
    } as never);
    const [, gtin, ...rest] = decodeURIComponent(new URL(link).pathname.slice(1)).split('/');
    // A serial with a stroke, written %2F, comes to us decoded.
    expect(readDigitalLinkPath(gtin!, rest.join('/'))).toEqual({ gtin: GTIN, serial: 'TN/1' });
  });
});
