/** The least a ledger is booked in: a product in lots and a place, and what tests of commands do with them. */
export const FLOUR = { name: 'Flour', unit: 'kg', decimals: 2, made: false, marking: 'lot' };
export const DOCK = { name: 'Dock', site: 'MAIN' };

/** Opening stock of so much of a lot. */
export const openingOf = (document: string, lot: string, quantity: string) => ({
  document,
  lines: [{ product: 'FLOUR', place: 'DOCK', quantity, marks: [{ lot, quantity }] }]
});
