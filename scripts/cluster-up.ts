// `npm run cluster`: the whole of deploy/cluster on this machine (root only), until it is ended.
//   --folder DIR    where it may write; emptied first (/tmp/earmark-cluster)
import { parseArgs } from 'node:util';
import { addressOf, LEDGER_MACHINES } from './standing/machines.ts';
import { FRONT, ownerUrl } from './standing/programs.ts';
import type { Stand } from './standing/stand.ts';
import { withStand } from './standing/with-stand.ts';

const { folder } = parseArgs({
  options: { folder: { type: 'string', default: '/tmp/earmark-cluster' } }
}).values;

const sayWhere = ({ secrets }: Stand): void =>
  console.log(`
Earmark is at ${FRONT} (token ${secrets.token})
The ledger: ${LEDGER_MACHINES.map((name) => `${name} ${addressOf(name)}`).join(', ')}
As its owner: ${ownerUrl(secrets)}
How it stands: patronictl -c ${folder}/a/etc/patroni.yml list
What each says: ${folder}/<machine>/log
Ctrl+C takes it down.`);

/** Node.js would end where nothing is left to wait for. */
const untilInterrupted = (): Promise<number> =>
  new Promise(() => {
    setInterval(() => {}, 60_000);
  });

const tell = (line: string): void => console.log(line);
await withStand(folder, { tell, interruptedCode: 0 }, (stand) => {
  sayWhere(stand);
  return untilInterrupted();
});
