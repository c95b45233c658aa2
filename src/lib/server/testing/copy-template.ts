import type { Sql } from '../kernel/db/client.ts';
import { TEMPLATE } from './template.ts';

/** What PostgreSQL says while somebody else copies the same template. */
const IN_USE = '55006';

/**
 * Makes a database as a copy of a template. Copying wants the template to itself, and another test
 * file may be copying just now: then it is asked again until that one is done.
 */
export async function copyTemplate(
  maintenance: Sql,
  name: string,
  template = TEMPLATE
): Promise<void> {
  for (;;) {
    try {
      await maintenance.unsafe(`CREATE DATABASE ${name} TEMPLATE ${template}`);
      return;
    } catch (error) {
      if ((error as { code?: string }).code !== IN_USE) throw error;
      await new Promise((go) => setTimeout(go, 50));
    }
  }
}
