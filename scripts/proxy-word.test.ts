import { expect, test } from 'vitest';
import { ADDRESS_HEADER, hear, proxiesOf } from './proxy-word.mjs';

/** What is heard of a request that came from a peer. */
function heard(peer: string, setting: string | undefined, sent: Record<string, string>) {
  const headers: Record<string, string> = { ...sent };
  hear({ headers, socket: { remoteAddress: peer } } as never, proxiesOf(setting));
  return [headers['x-forwarded-proto'], headers[ADDRESS_HEADER]];
}
const lies = {
  'x-forwarded-proto': 'https',
  'x-forwarded-for': '6.6.6.6',
  [ADDRESS_HEADER]: '7.7.7.7'
};

test('nobody is believed but a proxy that was named', () => {
  expect(heard('203.0.113.9', undefined, lies)).toEqual(['http', '203.0.113.9']);
  expect(heard('203.0.113.9', '1', lies)).toEqual(['http', '203.0.113.9']);
  expect(heard('127.0.0.1', '1', lies)).toEqual(['https', '6.6.6.6']);
  expect(heard('::ffff:127.0.0.1', '1', lies)).toEqual(['https', '6.6.6.6']);
  expect(heard('10.2.3.4', '10.0.0.0/8', lies)).toEqual(['https', '6.6.6.6']);
  expect(heard('11.2.3.4', '10.0.0.0/8', lies)).toEqual(['http', '11.2.3.4']);
});

test('of a list only what the nearest proxies wrote counts, whatever a client wrote before it', () => {
  const list = { 'x-forwarded-for': '1.1.1.1, 198.51.100.7, 10.0.0.9' };
  expect(heard('10.0.0.5', '10.0.0.5, 10.0.0.9', list)[1]).toBe('198.51.100.7');
  expect(heard('10.0.0.5', '10.0.0.5', list)[1]).toBe('10.0.0.9');
  expect(heard('10.0.0.5', '10.0.0.5', { 'x-forwarded-for': 'nonsense' })[1]).toBe('10.0.0.5');
  expect(heard('10.0.0.5', '10.0.0.5', {})[1]).toBe('10.0.0.5');
});

test.each(['yes', '10.0.0.0/33', '10.0.0', '::1/129', '10.0.0.1/x'])(
  'a setting of %s says what is wrong with it',
  (setting) => {
    expect(() => proxiesOf(setting)).toThrow(setting);
  }
);
