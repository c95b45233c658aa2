// `npm run hook-receiver -- whsec_… 4190`: stands in for another system that is told what is booked. It
// checks each message's signature and age, says what it is told, and forgets what it was told before.
import { createServer } from 'node:http';
import { Webhook } from 'standardwebhooks';

const [secret, port = '4190', host = '127.0.0.1'] = process.argv.slice(2);
if (!secret) {
  console.error('Say the secret of the hook: npm run hook-receiver -- whsec_… 4190');
  process.exit(2);
}
const webhook = new Webhook(secret);
const MOST_BYTES = 20_000_000;
const told = new Set<string>();

interface Message {
  type: string;
  data: { document?: string; number?: string };
}

const server = createServer((request, response) => {
  const say = (status: number, text: string) =>
    response.writeHead(status, { 'content-type': 'text/plain' }).end(`${text}\n`);
  const parts: Buffer[] = [];
  let bytes = 0;
  request.on('data', (part: Buffer) => {
    parts.push(part);
    bytes += part.length;
    if (bytes > MOST_BYTES) request.destroy();
  });
  request.on('end', () => {
    const headers = request.headers as Record<string, string>;
    try {
      const { type, data } = webhook.verify(Buffer.concat(parts), headers) as Message;
      const id = headers['webhook-id']!;
      const again = told.has(id) ? ', told before' : '';
      told.add(id);
      console.log(`${type} ${data.document ?? data.number ?? ''} (${id}${again})`);
      return say(200, 'Taken.');
    } catch (error) {
      console.log(`refused: ${(error as Error).message}`);
      return say(401, 'That is not signed as it should be.');
    }
  });
});
server.listen(Number(port), host, () => {
  const { port: taken } = server.address() as { port: number };
  console.log(`Listening on http://${host}:${taken}/`);
});
