import { NO_SPEC, type Limit, type Spec } from '../../core/quality/spec.ts';
import { listed } from '../parts/listed.ts';
import { typedWhole } from '../parts/typed-whole.ts';

/** A characteristic as it is typed. */
export interface LimitLine {
  name: string;
  kind: Limit['kind'];
  unit: string;
  least: string;
  most: string;
  /** Answers there are, and those that conform, with commas between. */
  choices: string;
  good: string;
  required: boolean;
}

/** A product's limits as they are typed. */
export interface SpecForm {
  limits: LimitLine[];
  holdOnFail: boolean;
  retestDays: string;
  sampling: string;
}

export const blankLimit = (): LimitLine => ({
  ...{ name: '', kind: 'number', unit: '', least: '', most: '', choices: '', good: '' },
  required: true
});

/** Limits as they stand, to be changed; one blank line where there are none yet. */
export function specForm(spec: Spec = NO_SPEC): SpecForm {
  const limits = spec.limits.map((limit) => ({
    ...limit,
    least: limit.least ?? '',
    most: limit.most ?? '',
    choices: limit.choices.join(', '),
    good: limit.good.join(', ')
  }));
  return {
    limits: limits.length > 0 ? limits : [blankLimit()],
    holdOnFail: spec.holdOnFail,
    retestDays: spec.retestDays?.toString() ?? '',
    sampling: spec.sampling
  };
}

/** What is sent of limits; a line nothing was typed in is none. */
export const specBody = (form: SpecForm): object => ({
  holdOnFail: form.holdOnFail,
  retestDays: typedWhole(form.retestDays),
  sampling: form.sampling,
  limits: form.limits.filter(isTyped).map((line) => ({
    ...line,
    least: line.least.trim() || null,
    most: line.most.trim() || null,
    choices: listed(line.choices),
    good: listed(line.good)
  }))
});

const isTyped = ({ name, unit, least, most, choices, good }: LimitLine): boolean =>
  [name, unit, least, most, choices, good].some((text) => text.trim() !== '');
