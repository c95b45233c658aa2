// One of several processes that serve (serve-many.mjs): told how by its environment, ended by a
// message.
import { proxiesOf } from './proxy-word.mjs';
import { serve, surviveLostDatabase } from './serve.mjs';

surviveLostDatabase((error) => {
  console.error(error);
  process.exit(1);
});
// A terminal's Ctrl+C goes to all of them: the first process says when it is time.
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => {});

const serving = serve({
  port: Number(process.env.PORT),
  host: process.env.HOST,
  isProxy: proxiesOf(process.env.EARMARK_PROXY)
});
/** It may be told to end before it serves: then it does so as soon as it could. */
async function endAs(how) {
  const { end } = await serving;
  await end(how);
  process.exit(0);
}
process.on('message', ({ end: how }) => {
  if (how) void endAs(how);
});
// Without the first process nobody would ever end this one.
process.on('disconnect', () => void endAs({ patienceMs: 5_000 }));
await serving;
process.send({ serving: true });
