import { describe, expect, it } from 'vitest';
import { Faults } from '../faults/fault.ts';
import { answeredAt, askedAt, factField, factOfField, givenIn } from '../catalogue/ask.ts';
import { takeDates } from '../catalogue/dates.ts';
import { takeFacts } from '../catalogue/facts.ts';
import { identityChange } from '../catalogue/identity-change.ts';
import {
  CHECKPOINTS,
  numbersComeLater,
  owesNumbers,
  planFaults,
  planOf,
  plainPlan,
  wayOf,
  WAYS,
  type FactAsked,
  type MarkingPlan
} from '../catalogue/plan.ts';

const fact = (more: Partial<FactAsked>): FactAsked => ({
  name: 'f',
  kind: 'text',
  unit: '',
  least: null,
  most: null,
  choices: [],
  required: false,
  ...more
});
const plan = (more: Partial<MarkingPlan> = {}): MarkingPlan => ({ ...plainPlan('lot'), ...more });

describe('facts of a mark', () => {
  const TEMPERATURE = fact({
    name: 'arrival temperature',
    kind: 'number',
    unit: '°C',
    least: '2',
    most: '8',
    required: true
  });
  const take = (
    facts: FactAsked[],
    given: Record<string, string>,
    answers: Partial<MarkingPlan['answers']> = {},
    reasons = {}
  ) => {
    const faults = new Faults(reasons);
    const values = takeFacts(
      plan({ facts, answers: { ...plainPlan('lot').answers, ...answers } }),
      'GLU',
      given,
      'p',
      'L1',
      faults
    );
    return values ?? faults.list.map((fault) => fault.code);
  };
  it('are kept with the unit of the plan’s day, by name without regard to capitals', () =>
    expect(take([TEMPERATURE], { 'Arrival Temperature ': ' 4.50 ' })).toEqual({
      'arrival temperature': { value: '4.50', unit: '°C' }
    }));
  it.each([
    ['2', true],
    ['8', true],
    ['1.99', false],
    ['8.000001', false],
    ['-4', false]
  ])('%s °C lies within 2…8: %s', (value, within) =>
    expect(Array.isArray(take([TEMPERATURE], { 'arrival temperature': value }))).toBe(!within)
  );
  it('outside their limits are refused, or go on with a reason or a note, as the plan says', () => {
    expect(take([TEMPERATURE], { 'arrival temperature': '9' })).toEqual(['mark.off-spec']);
    expect(take([TEMPERATURE], { 'arrival temperature': '9' }, { 'off limits': 'reason' })).toEqual(
      ['mark.off-spec']
    );
    expect(
      take(
        [TEMPERATURE],
        { 'arrival temperature': '9' },
        { 'off limits': 'reason' },
        { 'mark.off-spec': 'probe iced over, second reading 5' }
      )
    ).toEqual({ 'arrival temperature': { value: '9', unit: '°C' } });
    expect(take([TEMPERATURE], { 'arrival temperature': '9' }, { 'off limits': 'note' })).toEqual({
      'arrival temperature': { value: '9', unit: '°C' }
    });
  });
  it('that are required and missing stop; what the plan does not ask for is named', () => {
    expect(take([TEMPERATURE], {})).toEqual(['fact.missing']);
    expect(take([TEMPERATURE], { 'arrival temperature': '5', colour: 'red' })).toEqual([
      'fact.missing'
    ]);
    expect(take([], { colour: 'red' })).toEqual(['fact.missing']);
  });
  it.each<[Partial<FactAsked>, string, string | null]>([
    [{ kind: 'number' }, '4,5', null],
    [{ kind: 'number' }, '4.5', '4.5'],
    [{ kind: 'date' }, '2027-02-30', null],
    [{ kind: 'date' }, '2028-02-29', '2028-02-29'],
    [{ kind: 'yes/no' }, 'Y', 'yes'],
    [{ kind: 'yes/no' }, 'maybe', null],
    [{ kind: 'choice', choices: ['red', 'Blue'] }, 'BLUE', 'Blue'],
    [{ kind: 'choice', choices: ['red', 'Blue'] }, 'green', null],
    [{ kind: 'text' }, 'x'.repeat(201), null]
  ])('%o reads %s as %s', (kind, text, expected) =>
    expect(take([fact(kind)], { f: text })).toEqual(
      expected === null ? ['fact.missing'] : { f: { value: expected } }
    )
  );
});

describe('dates of a mark', () => {
  const take = (
    rules: Partial<MarkingPlan>,
    given: { made?: string; expires?: string; retest?: string },
    madeHere = false,
    earliestComponent: string | null = null
  ) => {
    const faults = new Faults();
    return (
      takeDates(
        plan(rules),
        'P',
        given,
        { day: '2026-11-23', madeHere, earliestComponent },
        'p',
        undefined,
        faults
      ) ?? faults.list.map((one) => one.code)
    );
  };
  it('are computed from the day the goods were made where it is known, otherwise from the day of the event', () => {
    expect(take({ expires: 'computed', shelfLifeDays: 10 }, {})).toEqual({
      made: null,
      expires: '2026-12-03',
      retest: null
    });
    expect(take({ expires: 'computed', shelfLifeDays: 10 }, { made: '2026-11-01' })).toEqual({
      made: '2026-11-01',
      expires: '2026-11-11',
      retest: null
    });
    expect(
      take({ expires: 'computed', shelfLifeDays: 10, retest: 'computed', retestDays: 5 }, {}, true)
    ).toEqual({ made: '2026-11-23', expires: '2026-12-03', retest: '2026-11-28' });
  });
  // Practice of the trade (standards.md): three weeks after Friday 22 January 2021 is Friday 12
  // February 2021; and over a leap day.
  it.each([
    ['2021-01-22', 21, '2021-02-12'],
    ['2024-02-28', 1, '2024-02-29'],
    ['2023-02-28', 1, '2023-03-01'],
    ['2023-12-31', 60, '2024-02-29']
  ])('made on %s, good for %i days, expires on %s', (made, shelfLifeDays, expires) =>
    expect(take({ expires: 'computed', shelfLifeDays }, { made })).toMatchObject({ expires })
  );
  it('given go before computed; taken over from components only where the plan says so', () => {
    expect(
      take({ expires: 'computed', shelfLifeDays: 10 }, { expires: '2030-01-01' })
    ).toMatchObject({ expires: '2030-01-01' });
    expect(take({ expires: 'components' }, {}, true, '2027-03-12')).toMatchObject({
      expires: '2027-03-12'
    });
    expect(take({ expires: 'if given' }, {}, true, '2027-03-12')).toMatchObject({ expires: null });
  });
  it('that must be entered are missed, that are not kept are left out, that are no dates are refused', () => {
    expect(take({ expires: 'entered' }, {})).toEqual(['date.missing']);
    expect(take({ made: 'entered' }, {})).toEqual(['date.missing']);
    expect(take({ made: 'entered' }, {}, true)).toMatchObject({ made: '2026-11-23' });
    expect(take({ expires: 'not kept' }, { expires: '2027-01-01' })).toMatchObject({
      expires: null
    });
    expect(take({}, { expires: '31.02.2027' })).toEqual(['date.missing']);
    expect(take({}, { made: '2026-11-24' })).toEqual(['date.missing']);
  });
});

describe('a plan', () => {
  it('has a name for its way of asking, or none', () => {
    expect(wayOf(plainPlan('serial'))).toBe('at every step');
    for (const [way, asks] of Object.entries(WAYS)) expect(wayOf({ asks })).toBe(way);
    expect(wayOf({ asks: { ...WAYS['at every step'], count: 'never' } })).toBeNull();
  });
  it('lets numbers come later or not, and owes them or leaves them for shipping', () => {
    const of = (way: keyof typeof WAYS) => plan({ identity: 'serial', asks: WAYS[way] });
    expect(
      [
        of('at every step'),
        of('at every step, but it may come later'),
        of('only when it is shipped')
      ].map((one) => [numbersComeLater(one), owesNumbers(one)])
    ).toEqual([
      [false, true],
      [true, true],
      [true, false]
    ]);
  });
  it('gives way to what its product says itself', () =>
    expect(
      planOf(plan({ shelfLifeDays: 5, warrantyMonths: 12 }), {
        shelfLifeDays: 9,
        warrantyMonths: null
      })
    ).toMatchObject({ shelfLifeDays: 9, warrantyMonths: 12 }));
  it.each<[Partial<MarkingPlan>, RegExp]>([
    [{ facts: [fact({ name: ' ' })] }, /no name/],
    [{ facts: [fact({ name: 'A' }), fact({ name: 'a ' })] }, /twice/],
    [{ facts: [fact({ kind: 'choice', choices: ['one'] })] }, /fewer than two/],
    [{ facts: [fact({ kind: 'number', least: '9', most: '2' })] }, /never fit/],
    [{ facts: [fact({ kind: 'number', least: 'x' })] }, /no number/],
    [{ retest: 'computed' }, /retest/],
    [{ identity: 'none', expires: 'computed' }, /no mark to keep/]
  ])('with %o cannot be kept', (more, why) =>
    expect(planFaults(plan(more)).join(' ')).toMatch(why)
  );
  it('that is plain can be kept', () =>
    expect(planFaults(plainPlan('serial-in-lot', { shelfLifeDays: 3 }))).toEqual([]));

  it('tells what is asked at each kind of event', () => {
    const keys = (more: Partial<MarkingPlan>, checkpoint: (typeof CHECKPOINTS)[number]) =>
      askedAt(plan(more), checkpoint).map((field) => `${field.key} ${field.how}`);
    expect(
      keys(
        {
          identity: 'serial-in-lot',
          expires: 'entered',
          made: 'not kept',
          retest: 'not kept',
          facts: [fact({ name: 'gross', required: true })]
        },
        'receive'
      )
    ).toEqual(['lot must', 'serial must', 'expires must', 'supplierNumber may', 'fact:gross must']);
    expect(keys({ identity: 'serial-in-lot' }, 'ship')).toEqual(['lot may', 'serial must']);
    expect(
      keys(
        {
          identity: 'serial',
          asks: WAYS['only when it is shipped'],
          expires: 'not kept',
          made: 'not kept',
          retest: 'not kept'
        },
        'receive'
      )
    ).toEqual(['quantity must', 'supplierNumber may']);
    expect(keys({ identity: 'none' }, 'receive')).toEqual(['quantity must']);
    expect(
      keys(
        {
          identity: 'lot',
          expires: 'computed',
          shelfLifeDays: 3,
          made: 'if given',
          retest: 'not kept'
        },
        'output'
      )
    ).toEqual(['lot must', 'quantity must', 'expires fills itself']);
  });
  it('tells what is refused, and that some things no plan softens', () => {
    const answers = answeredAt(
      plan({ answers: { ...plainPlan('lot').answers, expired: 'reason' } }),
      'ship'
    );
    expect(answers.map((one) => `${one.situation} ${one.answer}`)).toEqual([
      'number missing stop',
      'held stop',
      'rejected stop',
      'expired reason',
      'life too short reason',
      'not tested reason',
      'lots mixed reason',
      'dates mixed reason',
      'null stop',
      'null stop'
    ]);
    expect(answeredAt(plan({ identity: 'serial' }), 'receive').at(-1)).toEqual({
      situation: null,
      says: 'a serial is on hand or was used before',
      answer: 'stop'
    });
  });
});

describe('changing how a product is marked', () => {
  const bulk = { bulk: { amount: '12 each', marks: 1 } },
    lots = { lot: { amount: '9 each', marks: 2 } },
    serials = { serial: { amount: '3 each', marks: 3 } };
  it('to a finer identity may always be done, and says what is owed', () => {
    expect(identityChange('P', 'none', 'serial', bulk)).toMatchObject({
      may: true,
      owes: { kind: 'bulk', amount: '12 each' }
    });
    expect(identityChange('P', 'lot', 'serial-in-lot', lots)).toMatchObject({
      may: true,
      owes: { kind: 'lot', amount: '9 each' }
    });
    expect(identityChange('P', 'none', 'lot', {})).toMatchObject({ may: true, owes: null });
  });
  it('to a coarser one only when no number would be stuck', () => {
    expect(identityChange('P', 'serial', 'lot', serials).may).toBe(false);
    expect(identityChange('P', 'lot', 'none', lots).may).toBe(false);
    expect(identityChange('P', 'serial-in-lot', 'lot', lots).may).toBe(true);
    expect(identityChange('P', 'serial', 'none', {}).may).toBe(true);
  });
});

describe('what stands in the fields of a row', () => {
  it('is taken without what is empty, facts together under their names', () => {
    expect(
      givenIn(
        {
          lot: ' L1 ',
          expires: ' ',
          [factField('roll width')]: '1500',
          [factField('a:b')]: ' x ',
          other: 'y'
        },
        ['lot', 'expires', 'missing', factField('roll width'), factField('a:b')]
      )
    ).toEqual({ lot: 'L1', facts: { 'roll width': '1500', 'a:b': 'x' } });
    expect(givenIn({}, ['lot'])).toEqual({});
  });
  it('knows a fact’s field from any other', () =>
    expect([factOfField(factField('lot')), factOfField('lot')]).toEqual(['lot', null]));
});
