import type { z } from 'zod';
import type { Role } from '../../../core/people/rights.ts';
import type { Db } from '../../kernel/db/client.ts';
import type { AccessSettings } from '../schemas.ts';

export async function readAccessSettings(db: Db): Promise<z.infer<typeof AccessSettings>> {
  const [row] = await db<[{ factorRoles: Role[]; lockMinutes: number }]>`
    SELECT factor_roles AS "factorRoles", lock_minutes AS "lockMinutes" FROM access_setting
  `;
  return row;
}

export async function putAccessSettings(
  db: Db,
  { factorRoles, lockMinutes }: z.infer<typeof AccessSettings>
): Promise<void> {
  await db`
    UPDATE access_setting
    SET factor_roles = ${factorRoles as string[]}, lock_minutes = ${lockMinutes}
  `;
}
