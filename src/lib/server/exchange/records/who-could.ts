import { mayDo, type Role } from '../../../core/people/rights.ts';
import type { Db } from '../../kernel/db/client.ts';
import { dayIsOver } from '../../kernel/db/days.ts';
import type { RecordsAsked, RecordsRead } from './asked.ts';

interface Standing {
  login: string;
  name: string;
  roles: Role[];
  active: boolean;
  since: string;
  by: string;
}

/** How people stood at the end of a day; only those who had a right, where one is asked for. */
export async function readWhoCould(
  db: Db,
  { day, q, right }: RecordsAsked,
  most: number
): Promise<RecordsRead> {
  const all = await db<Standing[]>`
    SELECT DISTINCT ON (s.person_id) p.login, s.name, s.roles, s.active,
      to_json(s.since) #>> '{}' AS since, coalesce(b.name, '') AS by
    FROM person_standing s
      JOIN person p ON p.id = s.person_id
      LEFT JOIN person b ON b.id = s.changed_by
    WHERE s.since < ${dayIsOver(db, day)}
    ORDER BY s.person_id, s.since DESC, s.id DESC
  `;
  const wanted = q?.toLowerCase() ?? '';
  const found = all
    .filter((one) => `${one.name} ${one.login}`.toLowerCase().includes(wanted))
    .filter((one) => right === undefined || (one.active && mayDo(one.roles, right)))
    .sort((one, other) => one.name.localeCompare(other.name));
  return {
    rows: found.slice(0, most).map(({ roles, active, ...one }) => ({
      ...one,
      roles: roles.join(', ') || 'none',
      standing: active ? 'open' : 'ended'
    })),
    total: found.length
  };
}
