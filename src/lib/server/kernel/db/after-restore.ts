import type { Sql } from './client.ts';

/**
 * A restored ledger brings the transaction numbers of the cluster it came from, which mean nothing
 * here: those this cluster has not given yet would look like bookings still to come. They are set
 * to the first number there is: booked before everything. Needs the owner's rights; nobody else
 * sees rows of the future, so a server that books meanwhile is not in its way.
 * @returns the events concerned
 */
export async function forgetForeignTransactions(sql: Sql): Promise<number> {
  return await sql.begin(async (tx) => {
    const [row] = await tx<{ foreign: boolean }[]>`
      SELECT EXISTS (
        SELECT FROM event WHERE booked_xid >= pg_snapshot_xmax(pg_current_snapshot())
      ) AS foreign
    `;
    if (!row!.foreign) return 0;
    await tx`ALTER TABLE event DISABLE TRIGGER append_only`;
    const changed = await tx`
      UPDATE event SET booked_xid = '3' WHERE booked_xid >= pg_snapshot_xmax(pg_current_snapshot())
    `;
    await tx`ALTER TABLE event ENABLE TRIGGER append_only`;
    return changed.count;
  });
}
