/** A transfer in a list, with how much of it is still under way. */
export interface TransferRow {
  document: string;
  from: string;
  to: string;
  openedAt: string;
  openedBy: string;
  /** Lots and serials still under way, and since when the oldest of them is. */
  marks: number;
  since: string | null;
  /** Products still to leave of what was ordered ahead, and when they are due. */
  toLeave: number;
  due: string | null;
}
