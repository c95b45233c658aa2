// What of a request nobody read stays on its connection, and the next request waits behind it for ever.

/**
 * So much of it is taken off: more than any body may have. To throw bytes away costs little, and a
 * connection closed under them takes the answer with it. Who sends more, or slower, is cut off.
 */
const MOST_BYTES = 20_000_000;
const MOST_MS = 30_000;

/**
 * Once a request is answered, takes off its connection what of its body nobody read: a refusal does
 * not wait for the body.
 * @param {import('node:http').IncomingMessage} request
 * @param {import('node:http').ServerResponse} response
 */
export function drainAfter(request, response) {
  response.once('finish', () => {
    if (request.complete || request.destroyed) return;
    const close = () => request.socket.destroy();
    const timer = setTimeout(close, MOST_MS);
    let left = MOST_BYTES;
    // Whoever began to read has what they wanted; what is still to come is nobody's.
    request.removeAllListeners('data');
    request.on('data', (part) => {
      left -= part.length;
      if (left < 0) close();
    });
    request.once('close', () => clearTimeout(timer));
    request.resume();
  });
}
