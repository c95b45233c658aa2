/** How a product is marked. */
export type Marking = 'none' | 'lot' | 'serial' | 'serial-in-lot';

export type MarkKind = 'lot' | 'serial' | 'bulk';

export type MarkState = 'usable' | 'held' | 'rejected';
