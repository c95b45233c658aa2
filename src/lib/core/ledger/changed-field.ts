/** Fields of a mark that change only by an event; `fact` also names which. */
export type ChangedField =
  'state' | 'number' | 'expires_on' | 'made_on' | 'retest_on' | 'supplier_number' | 'fact';
