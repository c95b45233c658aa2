// What a request says of where it came from, and whose word counts: a proxy's that was named, nobody else's.
import { BlockList, isIP } from 'node:net';

/** Where the application reads the address of who asks; set here and nowhere else. */
export const ADDRESS_HEADER = 'x-earmark-address';

/** A peer on a socket of both families says ::ffff:127.0.0.1 for 127.0.0.1. */
const plain = (address) => address.replace(/^::ffff:(?=[\d.]+$)/, '');
const familyOf = (address) => (isIP(address) === 6 ? 'ipv6' : 'ipv4');

/**
 * The proxies of a setting: addresses and ranges (`10.0.0.0/8`) with commas between; `1` is one on
 * this machine, nothing is none.
 * @param {string | undefined} setting
 * @returns {(address: string) => boolean} whether an address is one of them
 * @throws Error naming what is no address
 */
export function proxiesOf(setting) {
  const named = (setting ?? '').trim() === '1' ? '127.0.0.1, ::1' : (setting ?? '');
  const list = new BlockList();
  for (const part of named.split(',').flatMap((one) => one.trim() || [])) {
    const [address, bits] = part.split('/');
    const most = isIP(address) === 6 ? 128 : 32;
    const isRange = bits === undefined || (/^\d{1,3}$/.test(bits) && Number(bits) <= most);
    if (!isIP(address) || !isRange)
      throw new Error(
        `EARMARK_PROXY names ${part}, which is no address. Give 1 for a proxy on this machine, or addresses and ranges such as 10.0.0.5, 10.1.0.0/16.`
      );
    list.addSubnet(address, bits === undefined ? most : Number(bits), familyOf(address));
  }
  return (address) => isIP(address) !== 0 && list.check(address, familyOf(address));
}

/**
 * Sets on a request how it came and from whom. A named proxy is believed what it adds itself: the
 * scheme, and the last address of its list that is no proxy too; whatever clients wrote before that
 * counts for nothing.
 * @param {import('node:http').IncomingMessage} request
 * @param {(address: string) => boolean} isProxy
 */
export function hear({ headers, socket }, isProxy) {
  const peer = plain(socket.remoteAddress ?? '');
  const told = String(headers['x-forwarded-for'] ?? '')
    .split(',')
    .map((one) => plain(one.trim()));
  const isNamed = isProxy(peer);
  headers['x-forwarded-proto'] =
    isNamed && headers['x-forwarded-proto'] === 'https' ? 'https' : 'http';
  const from = isNamed ? told.findLast((one) => isIP(one) !== 0 && !isProxy(one)) : undefined;
  headers[ADDRESS_HEADER] = from ?? peer;
}
