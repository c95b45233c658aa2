import type { Sql, Tx } from './client.ts';

/**
 * A restored ledger brings the transaction numbers of the cluster it came from, which mean nothing
 * here: those this cluster has not given yet would look like bookings still to come. They are set
 * to the first number there is: booked before everything. Those whose costs were not carried yet
 * get the second, which the carried costs are told they have not seen. Needs the owner's rights;
 * nobody else sees rows of the future, so a server that books meanwhile is not in its way.
 * @returns the events concerned
 */
export async function forgetForeignTransactions(sql: Sql): Promise<number> {
  return await sql.begin(async (tx) => {
    const [row] = await tx<{ events: number; carried: boolean }[]>`
      SELECT (
          SELECT count(*)::int
          FROM event
          WHERE booked_xid >= pg_snapshot_xmax(pg_current_snapshot())
        ) AS events,
        (SELECT pg_snapshot_xmax(snapshot::pg_snapshot) FROM cost_carried)
          > pg_snapshot_xmax(pg_current_snapshot()) AS carried
    `;
    if (row!.events > 0 || row!.carried) await forget(tx);
    return row!.events;
  });
}

async function forget(tx: Tx): Promise<void> {
  await tx`ALTER TABLE event DISABLE TRIGGER append_only`;
  await tx`
    UPDATE event e
    SET booked_xid = CASE WHEN pg_visible_in_snapshot(e.booked_xid, c.snapshot::pg_snapshot)
      THEN '3'::xid8 ELSE '4'::xid8 END
    FROM cost_carried c
    WHERE e.booked_xid >= pg_snapshot_xmax(pg_current_snapshot())
      OR NOT pg_visible_in_snapshot(e.booked_xid, c.snapshot::pg_snapshot)
  `;
  await tx`ALTER TABLE event ENABLE TRIGGER append_only`;
  // Running, to it, was only the second: all that is booked from here on is still to come.
  await tx`
    UPDATE cost_carried
    SET snapshot = '4:' || pg_snapshot_xmax(pg_current_snapshot())::text || ':4'
  `;
}
