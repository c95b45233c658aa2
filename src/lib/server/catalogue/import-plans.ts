import { plainPlan, WAYS, type Way } from '../../core/catalogue/plan.ts';
import type { Marking } from '../../core/catalogue/marking.ts';
import { SITUATIONS } from '../../core/faults/situations.ts';
import { shown } from '../../core/numbers/number.ts';
import type { TableColumn } from '../../core/tables/headings.ts';
import type { Actor } from '../kernel/actor.ts';
import { badCells } from '../kernel/imports/report.ts';
import { orNull, partsOf, saysYes, type ImportedTable } from '../kernel/imports/import-table.ts';
import { Problem } from '../kernel/problem.ts';
import type { TableRow } from '../kernel/tables/read-table.ts';
import { putPlan } from './plans.ts';
import { MarkingPlan } from './schemas.ts';

/** What is answered to each situation has a column of its name. */
const ANSWERS: readonly TableColumn[] = Object.keys(SITUATIONS).map((situation) => ({
  key: `answer ${situation}`,
  says: `if ${situation}`
}));

/** A table of marking plans: a row for each, or for each fact it asks for. */
export const planTable = (actor: Actor): ImportedTable => ({
  columns: [
    { key: 'code', says: 'code', required: true, also: ['plan'] },
    { key: 'name', says: 'name', required: true },
    { key: 'identity', says: 'marked by', required: true, also: ['marking', 'identity'] },
    { key: 'asked', says: 'asked', also: ['numbers asked'] },
    { key: 'expires', says: 'expiry', also: ['expires'] },
    { key: 'shelfLifeDays', says: 'shelf life days', also: ['shelf life'] },
    { key: 'made', says: 'made' },
    { key: 'retest', says: 'retest' },
    { key: 'retestDays', says: 'retest days' },
    { key: 'warrantyMonths', says: 'warranty months', also: ['warranty'] },
    { key: 'lotScheme', says: 'lot scheme' },
    { key: 'serialScheme', says: 'serial scheme' },
    { key: 'receivedTo', says: 'received to' },
    { key: 'returnedTo', says: 'returned to' },
    { key: 'recalledTo', says: 'recalled to' },
    { key: 'foundTo', says: 'found to' },
    { key: 'fact', says: 'fact' },
    { key: 'kind', says: 'fact kind' },
    { key: 'unit', says: 'fact unit' },
    { key: 'least', says: 'fact least' },
    { key: 'most', says: 'fact most' },
    { key: 'choices', says: 'fact choices' },
    { key: 'required', says: 'fact required' },
    ...ANSWERS
  ],
  key: 'code',
  rows: 'many',
  keep: async (tx, code, rows) => {
    const wanted = MarkingPlan.safeParse(planOf(rows));
    if (!wanted.success) throw badCells(wanted.error.issues);
    const [before] = await tx<{ last: number | null }[]>`
      SELECT max(v.version) AS last
      FROM marking_plan p
        JOIN marking_plan_version v ON v.plan_id = p.id
      WHERE upper(p.code) = upper(${code.trim()})
    `;
    const { version, created } = await putPlan(tx, actor, code, wanted.data);
    if (created) return 'new';
    return version === before?.last ? 'same' : 'changed';
  }
});

const MARKINGS: Record<string, Marking> = {
  none: 'none',
  'by quantity': 'none',
  lot: 'lot',
  serial: 'serial',
  'serial-in-lot': 'serial-in-lot',
  'serial within lot': 'serial-in-lot'
};

/** The plain plan of its marking, with what the rows say otherwise. */
function planOf(rows: readonly TableRow[]): Record<string, unknown> {
  const first = (key: string): string =>
    rows.map(({ cells }) => cells[key]?.trim()).find((cell) => cell) ?? '';
  const said = first('identity').toLowerCase();
  const identity = MARKINGS[said];
  if (!identity) throw unknown('marked by', said, Object.keys(MARKINGS));
  const way = first('asked').toLowerCase();
  if (way !== '' && !Object.hasOwn(WAYS, way)) throw unknown('asked', way, Object.keys(WAYS));
  const whole = (key: string) => (first(key) === '' ? null : Number(first(key)));
  const plain = plainPlan(identity);
  const given = (
    key: 'expires' | 'made' | 'retest' | 'receivedTo' | 'returnedTo' | 'recalledTo' | 'foundTo'
  ) => first(key).toLowerCase() || plain[key];
  return {
    ...plain,
    name: first('name'),
    asks: way === '' ? plain.asks : WAYS[way as Way],
    expires: identity === 'none' && first('expires') === '' ? 'not kept' : given('expires'),
    shelfLifeDays: whole('shelfLifeDays'),
    made: given('made'),
    retest: given('retest'),
    retestDays: whole('retestDays'),
    warrantyMonths: whole('warrantyMonths'),
    lotScheme: first('lotScheme') || null,
    serialScheme: first('serialScheme') || null,
    receivedTo: given('receivedTo'),
    returnedTo: given('returnedTo'),
    recalledTo: given('recalledTo'),
    foundTo: given('foundTo'),
    facts: rows.filter(({ cells }) => cells.fact?.trim()).map(factOf),
    answers: {
      ...plain.answers,
      ...Object.fromEntries(
        Object.keys(SITUATIONS).flatMap((situation) => {
          const answer = first(`answer ${situation}`).toLowerCase();
          return answer === '' ? [] : [[situation, answer]];
        })
      )
    }
  };
}

const factOf = ({ cells }: TableRow): Record<string, unknown> => ({
  name: cells.fact,
  kind: (cells.kind || 'text').toLowerCase(),
  unit: cells.unit ?? '',
  least: orNull(cells.least),
  most: orNull(cells.most),
  choices: partsOf(cells.choices),
  required: saysYes(cells.required || undefined, false)
});

const unknown = (what: string, said: string, known: readonly string[]): Problem =>
  new Problem(422, 'The row cannot be read', [
    {
      code: 'request.malformed',
      path: what,
      message: `“${shown(said)}” under ${what} is none of ${known.join(', ')}.`
    }
  ]);
