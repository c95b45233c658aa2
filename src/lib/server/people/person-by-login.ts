import { numberKey } from '../../core/numbers/number.ts';
import type { Role } from '../../core/people/rights.ts';
import type { Db } from '../kernel/db/client.ts';

export interface PersonFound {
  id: number;
  name: string;
  roles: Role[];
  /** The hash of their password; null where they have none or are not active. */
  password: string | null;
}

/** The person who signs in by this name; null where there is none. */
export async function personByLogin(db: Db, login: string): Promise<PersonFound | null> {
  const [row] = await db<PersonFound[]>`
    SELECT id, name, roles, CASE WHEN active THEN password_hash END AS password
    FROM person
    WHERE upper(login) = ${numberKey(login).slice(0, 100)}
  `;
  return row ?? null;
}
