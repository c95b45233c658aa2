import type { Checkpoint, MarkingPlan } from './plan.ts';
import { hasSerials } from './plan.ts';
import { SITUATIONS, type Answer, type Situation } from '../faults/situations.ts';

/**
 * One thing a sheet asks of a row at some kind of event. `how` says whether it must be given, may
 * be, or fills itself.
 */
export interface Field {
  key: string;
  says: string;
  kind: 'number' | 'quantity' | 'date' | 'text' | 'fact';
  how: 'must' | 'may' | 'fills itself';
  unit: string;
}

const FACT = 'fact:';
/**
 * The key of the field a fact is given in, and the fact's name of such a key; null for any other
 * field.
 */
export const factField = (name: string): string => FACT + name;
export const factOfField = (key: string): string | null =>
  key.startsWith(FACT) ? key.slice(FACT.length) : null;

/**
 * What stands in the fields of a row, as a booking takes it: without what is empty, facts together
 * under their names.
 */
export function givenIn(
  row: Readonly<Record<string, string | undefined>>,
  keys: readonly string[]
): Record<string, unknown> {
  const given: Record<string, unknown> = {};
  let facts: Record<string, string> | undefined;
  for (const key of keys) {
    const value = row[key]?.trim();
    if (!value) continue;
    const fact = factOfField(key);
    if (fact === null) given[key] = value;
    else (facts ??= {})[fact] = value;
  }
  if (facts) given.facts = facts;
  return given;
}

/** Events at which a mark is born, so that its dates and facts are taken. */
export const BIRTHS: readonly Checkpoint[] = ['receive', 'output'];

/** Everything a plan asks for at a kind of event, in the order a sheet shows it. */
export function askedAt(plan: MarkingPlan, checkpoint: Checkpoint): Field[] {
  const fields: Field[] = [];
  const birth = BIRTHS.includes(checkpoint);
  const asked = plan.asks[checkpoint];
  const number = (key: string, says: string, how: Field['how']) =>
    fields.push({ key, says, kind: 'number', how, unit: '' });
  if (plan.identity === 'lot' && asked !== 'never')
    number('lot', 'lot', asked === 'always' ? 'must' : 'may');
  if (plan.identity === 'serial-in-lot')
    number('lot', 'lot', birth || asked === 'never' ? 'must' : 'may');
  if (hasSerials(plan.identity) && asked !== 'never')
    number('serial', 'serial', asked === 'always' ? 'must' : 'may');
  if (!hasSerials(plan.identity) || asked !== 'always')
    fields.push({ key: 'quantity', says: 'quantity', kind: 'quantity', how: 'must', unit: '' });
  if (!birth || plan.identity === 'none') return fields;
  const date = (key: string, says: string, rule: MarkingPlan['expires']) => {
    if (rule === 'not kept') return;
    fields.push({
      key,
      says,
      kind: 'date',
      how: rule === 'entered' ? 'must' : rule === 'if given' ? 'may' : 'fills itself',
      unit: ''
    });
  };
  if (checkpoint === 'receive') date('made', 'made on', plan.made);
  date(
    'expires',
    'expires',
    plan.expires === 'components' && checkpoint === 'receive' ? 'if given' : plan.expires
  );
  date('retest', 'retest on', plan.retest);
  if (checkpoint === 'receive')
    fields.push({
      key: 'supplierNumber',
      says: 'their number',
      kind: 'text',
      how: 'may',
      unit: ''
    });
  for (const fact of plan.facts)
    fields.push({
      key: factField(fact.name),
      says: fact.name,
      kind: 'fact',
      how: fact.required ? 'must' : 'may',
      unit: fact.unit
    });
  return fields;
}

/**
 * What is refused, asked about or only shown at a kind of event: the faults that can come up there,
 * with the plan's answer.
 */
export function answeredAt(
  plan: MarkingPlan,
  checkpoint: Checkpoint
): { situation: Situation | null; says: string; answer: Answer }[] {
  const birth = BIRTHS.includes(checkpoint);
  const uses = checkpoint === 'issue' || checkpoint === 'ship';
  const list: Situation[] = [
    ...(plan.asks[checkpoint] === 'always' && plan.identity !== 'none'
      ? ['number missing' as const]
      : []),
    ...(uses ? (['held', 'rejected', 'expired'] as const) : []),
    ...(checkpoint === 'ship' && plan.identity !== 'none'
      ? (['life too short', 'not tested', 'lots mixed', 'dates mixed'] as const)
      : []),
    ...(checkpoint === 'receive' && plan.expires !== 'not kept' && plan.identity !== 'none'
      ? ['arrives expired' as const]
      : []),
    ...(birth && plan.facts.some((fact) => fact.required) ? ['fact missing' as const] : []),
    ...(birth &&
    plan.facts.some((fact) => fact.kind === 'number' && (fact.least ?? fact.most) !== null)
      ? ['off limits' as const]
      : []),
    ...(birth && [plan.expires, plan.made, plan.retest].includes('entered')
      ? ['date missing' as const]
      : [])
  ];
  const fixed = birth
    ? hasSerials(plan.identity)
      ? ['a serial is on hand or was used before']
      : []
    : ['there is less than asked', 'the number is of another product'];
  return [
    ...list.map((situation) => ({
      situation,
      says: SITUATIONS[situation].says,
      answer: plan.answers[situation]
    })),
    ...fixed.map((says) => ({ situation: null, says, answer: 'stop' as const }))
  ];
}
