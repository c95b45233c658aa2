/** Kinds of place, and what each means for what lies there. */
const PLACE_KINDS = [
  ['dock', 'A dock: what comes in stands here until it is put away.'],
  ['rack', 'A rack: what lies here is free to be used and shipped.'],
  ['bin', 'A bin: what lies here is free to be used and shipped.'],
  ['line', 'A line: what is built takes its parts from here.'],
  ['quarantine', 'A quarantine: what lies here is free for nothing until it is moved out.'],
  ['dispatch', 'A dispatch: what is picked and packed stands here until it leaves.']
] as const;

/** The kinds as they are chosen, by their word. */
export const PLACE_KIND_CHOICES = PLACE_KINDS.map(([kind]) => [kind, kind] as const);

export type PlaceKind = (typeof PLACE_KINDS)[number][0];

export const sayPlaceKind = (kind: string): string =>
  PLACE_KINDS.find(([one]) => one === kind)?.[1] ?? kind;
