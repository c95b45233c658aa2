import type { Sql } from '../kernel/db/client.ts';
import { TEMPLATE } from './template.ts';

/**
 * Makes a database as a copy of the migrated one. Copying wants the template to itself, and another
 * test file may be copying just now.
 */
export async function copyTemplate(maintenance: Sql, name: string): Promise<void> {
  for (let attempt = 0; ; attempt++) {
    try {
      await maintenance.unsafe(`CREATE DATABASE ${name} TEMPLATE ${TEMPLATE}`);
      return;
    } catch (error) {
      if (attempt > 50) throw error;
      await new Promise((go) => setTimeout(go, 100));
    }
  }
}
