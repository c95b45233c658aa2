import type { Sql } from '../../kernel/db/client.ts';
import { CopiedLeaves } from '../copied-leaves.ts';
import { readSealedColumns } from '../sealed-columns.ts';

/** The leaves of these events as they are put together from copied rows, by the event. */
export async function copiedTexts(
  sql: Sql,
  events: readonly number[]
): Promise<Map<number, string>> {
  const texts = new Map<number, string>();
  await sql.begin(async (tx) => {
    const leaves = new CopiedLeaves([tx], await readSealedColumns(tx));
    await leaves.each(events, (event, pieces) =>
      texts.set(event, Buffer.concat(pieces).toString())
    );
  });
  return texts;
}
