import { glnOf } from '../../core/gs1/gln-of.ts';
import type { Db } from '../kernel/db/client.ts';

/** Says who sent a document: our partner of that GLN by name, otherwise as it was sent. */
export async function namedSenders(db: Db): Promise<(sender: string) => string> {
  const partners = await db<{ gln: string; name: string }[]>`
    SELECT gln, name
    FROM partner
    WHERE gln IS NOT NULL
  `;
  const byGln = new Map(partners.map(({ gln, name }) => [gln, name]));
  return (sender) => {
    const gln = glnOf(sender);
    return (gln !== null && byGln.get(gln)) || sender;
  };
}
