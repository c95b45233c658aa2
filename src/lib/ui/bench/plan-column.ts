import { capital } from '../../core/capital.ts';
import type { Field } from '../../core/catalogue/ask.ts';
import { factOfField } from '../../core/catalogue/ask.ts';
import type { MarkingPlan } from '../../core/catalogue/plan.ts';
import type { Column } from './grid.ts';

const FACT_COLUMN = {
  text: 'text',
  number: 'quantity',
  choice: 'choice',
  'yes/no': 'choice',
  date: 'date'
} as const;

/** Printed on goods as a month, which means its last day. */
const MONTH_ENDS = new Set(['expires', 'retest']);

/**
 * The column of the number grid for what a plan asks; a pasted table may call a fact by its name
 * alone.
 */
export function columnOf(plan: MarkingPlan, field: Field): Column {
  const fact = plan.facts.find((one) => one.name === factOfField(field.key));
  const column: Column = {
    key: field.key,
    label: `${capital(field.says)}${field.unit ? `, ${field.unit}` : ''}`,
    must: field.how === 'must',
    kind: fact ? FACT_COLUMN[fact.kind] : field.kind === 'fact' ? 'text' : field.kind
  };
  if (MONTH_ENDS.has(field.key)) column.monthEnds = true;
  if (fact) column.also = [fact.name];
  if (fact?.kind === 'choice') column.choices = fact.choices;
  if (fact?.kind === 'yes/no') column.choices = ['yes', 'no'];
  return column;
}
