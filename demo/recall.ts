import type { Actor } from '../src/lib/server/kernel/actor.ts';
import { sendNotices } from '../src/lib/server/recall/notices.ts';
import { putWords } from '../src/lib/server/recall/case-words.ts';
import { decideScope, openRecall } from '../src/lib/server/recall/write-recall.ts';
import { recordAnswers } from '../src/lib/server/recall/record-answers.ts';
import { readRecall } from '../src/lib/server/recall/read-recall.ts';
import type { Sql } from '../src/lib/server/kernel/db/client.ts';

/**
 * The recall of the demo: the bobbin lot that takes up moisture, under way at its four customers,
 * the first of whom has begun to answer; nothing but the lot itself is held yet.
 */
export async function seedRecall(
  sql: Sql,
  actors: ReadonlyMap<string, Actor>,
  now: Date
): Promise<void> {
  const wilf = actors.get('wilf')!;
  const [lot] = await sql<{ id: number }[]>`
    SELECT m.id
    FROM mark m
      JOIN product p ON p.id = m.product_id
    WHERE p.code = 'BOB-S' AND m.state = 'held'
    ORDER BY m.id
    LIMIT 1
  `;
  const { number } = await openRecall(sql, wilf, 'demo recall', {
    title: 'Bobbins that take up moisture',
    mock: false,
    marks: [lot!.id],
    why: 'Swollen in the packet; the supplier confirms a bad drum of binder.',
    hazard:
      'The dissolving bobbin in the inflator takes up moisture and can let a jacket inflate by itself. Re-arm kits with the same bobbins are affected too.',
    request:
      'Do not use these jackets and kits. Send them back to Quay Works; we pay the carriage and send replacements.'
  });
  await decideScope(sql, wilf, number);
  await putWords(sql, wilf, number, {
    language: 'de',
    title: 'Auslösetabletten, die Feuchtigkeit aufnehmen',
    hazard:
      'Die Auslösetablette im Auslöser nimmt Feuchtigkeit auf und kann die Weste von selbst aufblasen. Nachrüstsätze mit denselben Tabletten sind auch betroffen.',
    request:
      'Benutzen Sie diese Westen und Sätze nicht. Senden Sie sie an Quay Works zurück; wir zahlen die Fracht und liefern Ersatz.'
  });
  await sendNotices(sql, wilf, number, null);
  const [first] = (await readRecall(sql, number, now))!.customers;
  await recordAnswers(
    sql,
    wilf,
    number,
    'demo answers',
    first!.rows.slice(0, 3).map((row) => ({
      partner: first!.partner,
      mark: row.mark,
      outcome: 'returned' as const,
      quantity: row.quantity,
      note: ''
    }))
  );
}
