import { createTransport } from 'nodemailer';
import { SMTPServer } from 'smtp-server';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { today } from '../kernel/clock.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import { deliverMessages, type Mail } from './deliver.ts';
import { openJob } from './open-job.ts';
import { readJob } from './read-job.ts';
import { NewServiceJob } from './schemas.ts';
import { keepSettings, readSettings } from './settings.ts';

let world: World;
/** A mail server of the same family as what sends, but a server: it takes what is sent as mail. */
const taken: { to: string[]; text: string }[] = [];
const server = new SMTPServer({
  authOptional: true,
  disabledCommands: ['STARTTLS'],
  onRcptTo: ({ address }, _session, done) =>
    done(address.startsWith('nobody@') ? new Error('no such mailbox') : null),
  onData: (stream, session, done) => {
    let text = '';
    stream.on('data', (part: Buffer) => (text += part.toString()));
    stream.on('end', () => {
      taken.push({ to: session.envelope.rcptTo.map((one) => one.address), text });
      done();
    });
  }
});
let transport: ReturnType<typeof createTransport>;
beforeAll(async () => {
  world = await makeWorld();
  const coordinator = { ...world.actor, roles: ['coordinator' as const] };
  const settings = await readSettings(world.sql);
  await keepSettings(world.sql, coordinator, { ...settings, tells: ['waiting for unit'] });
  const port = await new Promise<number>((ready) => {
    const listening = server.listen(0, '127.0.0.1', () =>
      ready((listening.address() as { port: number }).port)
    );
  });
  transport = createTransport(`smtp://127.0.0.1:${port}`);
});
afterAll(async () => {
  transport.close();
  await new Promise<void>((closed) => server.close(closed));
  await world.end();
});

const send = (mail: Mail) => transport.sendMail(mail);
const deliver = () => deliverMessages(world.sql, 'service@brackwater.example', send);
let n = 0;
/** A job whose customer is told at this address. */
const told = async (email: string): Promise<string> => {
  const asked = NewServiceJob.parse({
    unit: { product: 'SER', serial: `MAIL-${++n}` },
    ...{ customer: 'CUS', fault: 'weak', contact: { email } }
  });
  return (await openJob(world.sql, world.actor, newKey(), asked)).opened.job.number;
};

it('sends each message once, also where two deliver at the same moment', async () => {
  const number = await told('mate@skarrow.example');
  await Promise.all([deliver(), deliver()]);
  await deliver();
  const mine = taken.filter((mail) => mail.text.includes(number));
  expect(mine).toHaveLength(1);
  expect(mine[0]).toMatchObject({ to: ['mate@skarrow.example'] });
  expect(mine[0]!.text).toContain('From: service@brackwater.example');
  const [message] = (await readJob(world.sql, number, today())).messages;
  expect(message).toMatchObject({ sent: true, refused: null });
});

it('keeps why a message was refused, and keeps no other back', async () => {
  const refused = await told('nobody@skarrow.example');
  const after = await told('bo@skarrow.example');
  await deliver();
  const [message] = (await readJob(world.sql, refused, today())).messages;
  expect(message).toMatchObject({ sent: false, refused: expect.stringContaining('no such') });
  const [other] = (await readJob(world.sql, after, today())).messages;
  expect(other).toMatchObject({ sent: true });
});
