const ON_THIS_MACHINE = new Set(['localhost', '127.0.0.1', '[::1]']);

/**
 * What is wrong with an address that is to be told; null where nothing is. What is told is nobody
 * else’s to read: only this machine may be told without TLS.
 */
export function whatIsWrongWith(address: string): string | null {
  if (!URL.canParse(address)) return 'That is no address. Give one like https://erp.example/hooks.';
  const { protocol, hostname, username, password } = new URL(address);
  if (username !== '' || password !== '')
    return 'An address is no place for a password. What proves that it is us is the signature.';
  if (protocol === 'https:') return null;
  if (protocol === 'http:' && ON_THIS_MACHINE.has(hostname)) return null;
  return 'It must begin with https://, or with http:// on this machine.';
}
