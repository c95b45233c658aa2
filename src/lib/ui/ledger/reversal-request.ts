/** A mark of which what an event did can still be taken back. */
export interface OpenMark {
  mark: number;
  product: string;
  kind: 'lot' | 'serial' | 'bulk';
  number: string | null;
}

/** Most marks that can be picked one by one; of more it is all, or some of these. */
export const MOST_PICKED = 300;

const nameOf = ({ kind, number }: OpenMark) => {
  if (kind === 'bulk') return {};
  return kind === 'serial' ? { serial: number } : { lot: number };
};

/** What is sent to take an event back: all of it, or what it did to the marks picked. */
export const reversalOf = (
  event: { id: number; document: string; open: readonly OpenMark[] },
  picked: ReadonlySet<number> | null,
  reason: string
) => ({
  document: event.document,
  event: event.id,
  reason,
  ...(picked
    ? {
        units: event.open
          .filter((one) => picked.has(one.mark))
          .map((one) => ({ product: one.product, ...nameOf(one) }))
      }
    : {})
});

const COMES: Readonly<Record<string, string>> = {
  receive: 'What was received leaves stock; its numbers may be received again.',
  return: 'What came back is with the customer again.',
  gain: 'What was found leaves stock.',
  ship: 'What left lies again where it was taken from; its cartons stand here packed.',
  loss: 'What was lost lies again where it was.',
  scrap: 'What was scrapped lies again where it was.',
  move: 'What was carried lies again where it came from.',
  'put away': 'What was carried lies again where it came from.',
  hold: 'It is again what it was before.',
  release: 'It is again what it was before.',
  reject: 'It is again what it was before.',
  amendment: 'It says again what it said before.',
  pack: 'What was put in is out again.',
  unpack: 'What was taken out is in again.'
};

/** What comes of taking an event of a kind back, in a sentence. */
export const whatComesOf = (kind: string): string =>
  COMES[kind] ?? 'What was made leaves stock, what went in lies again where it was taken from.';

/** What stands in the way, once for each event: the first of its faults, and how many more. */
export function byEvent<Said extends { event?: number }>(
  faults: readonly Said[]
): { first: Said; more: number }[] {
  const groups: { first: Said; more: number }[] = [];
  for (const fault of faults) {
    const known = groups.find(
      ({ first }) => fault.event !== undefined && first.event === fault.event
    );
    if (known) known.more++;
    else groups.push({ first: fault, more: 0 });
  }
  return groups;
}
