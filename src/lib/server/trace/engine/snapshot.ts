/**
 * A database snapshot as `pg_current_snapshot()` writes it: what had ended below `xmin`, what had
 * not begun from `xmax` on, what was running between.
 */
export interface Snapshot {
  text: string;
  xmin: bigint;
  xmax: bigint;
  running: ReadonlySet<bigint>;
}

export function readSnapshotText(text: string): Snapshot {
  const [xmin, xmax, running] = text.split(':');
  return {
    text,
    xmin: BigInt(xmin!),
    xmax: BigInt(xmax!),
    running: new Set((running ?? '').split(',').filter(Boolean).map(BigInt))
  };
}

/** Whether what a transaction booked can be seen in a snapshot, where it was committed. */
export const sees = (snapshot: Snapshot, xid: bigint): boolean =>
  xid < snapshot.xmin || (xid < snapshot.xmax && !snapshot.running.has(xid));
