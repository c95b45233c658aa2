// `npm run cluster`: the whole of deploy/cluster on this machine (root only), until it is ended.
//   --folder DIR    where it may write; emptied first (/tmp/earmark-cluster)
import { parseArgs } from 'node:util';
import { Plain } from './machine.mjs';
import { addressOf, LEDGER_MACHINES } from './standing/machines.ts';
import { FRONT, ownerUrl } from './standing/programs.ts';
import { standUp, takeDown } from './standing/stand.ts';

const { values } = parseArgs({
  options: { folder: { type: 'string', default: '/tmp/earmark-cluster' } }
});
const end = (code: number): never => {
  takeDown(values.folder);
  process.exit(code);
};
process.on('SIGINT', () => end(0));
process.on('SIGTERM', () => end(0));
try {
  const stand = await standUp(values.folder, { tell: (line) => console.log(line) });
  console.log(`
Earmark is at ${FRONT} (token ${stand.secrets.token})
The ledger: ${LEDGER_MACHINES.map((name) => `${name} ${addressOf(name)}`).join(', ')}
As its owner: ${ownerUrl(stand.secrets)}
How it stands: patronictl -c ${values.folder}/a/etc/patroni.yml list
What each says: ${values.folder}/<machine>/log
Ctrl+C takes it down.`);
  setInterval(() => {}, 60_000);
} catch (error) {
  console.error(error instanceof Plain ? error.message : error);
  end(1);
}
