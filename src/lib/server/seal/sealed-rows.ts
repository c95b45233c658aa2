/** Rows that are sealed with an event. */
export interface SealedRows {
  /** Their name in the sealed form. */
  part: string;
  table: string;
  /** The column that says of which event they are. */
  of: string;
  /** The columns they are ordered by, of a table named `x`. */
  by: string;
}

/**
 * Tables whose rows are an event's, by the column that says of which, in the order of another.
 * Empty columns are left out, so that a column that is added later changes no leaf.
 */
export const SEALED_ROWS: readonly SealedRows[] = [
  { part: 'moves', table: 'movement', of: 'event_id', by: 'id' },
  { part: 'changes', table: 'mark_change', of: 'event_id', by: 'id' },
  { part: 'fitted', table: 'fitting', of: 'from_event', by: 'id' },
  { part: 'removed', table: 'removal', of: 'event_id', by: 'id' },
  { part: 'undone', table: 'transformation_reversed', of: 'event_id', by: 'transformation_id' },
  { part: 'returned', table: 'returned', of: 'event_id', by: 'mark_id, x.shipment_id' },
  { part: 'cartons', table: 'logistic_unit', of: 'event_id', by: 'id' },
  { part: 'packed', table: 'packing', of: 'event_id', by: 'id' },
  { part: 'cartonsOut', table: 'unit_shipped', of: 'event_id', by: 'unit_id' },
  { part: 'cartonsBack', table: 'unit_back', of: 'event_id', by: 'unit_id' },
  { part: 'step', table: 'station_step', of: 'event_id', by: 'unit_id' },
  { part: 'remarks', table: 'booking_remark', of: 'event_id', by: 'id' },
  { part: 'signed', table: 'event_signature', of: 'event_id', by: 'id' },
  { part: 'plans', table: 'event_plan', of: 'event_id', by: 'product_id' },
  { part: 'costs', table: 'cost_told', of: 'event_id', by: 'mark_id' },
  { part: 'transfer', table: 'transfer_event', of: 'event_id', by: 'transfer_id' },
  { part: 'job', table: 'service_event', of: 'event_id', by: 'job_id' }
];

/** Columns of a mark that are not what it was born with: derived, told elsewhere, or told later. */
export const NOT_OF_ITS_BIRTH = [
  'number_key',
  'birth_event',
  'facts',
  'warranty_start',
  'warranty_months'
];

/** Every table that has rows of a sealed event. */
export const SEALED_TABLES: readonly string[] = [
  ...['event', 'mark', 'transformation', 'transformation_input', 'transformation_output'],
  ...SEALED_ROWS.map(({ table }) => table)
];
