<!-- A marking plan as sentences; every word that can be different is changed where it stands. -->
<script lang="ts">
  import {
    ASKED,
    CHECKPOINTS,
    EXPIRY_RULES,
    FACT_KINDS,
    hasLots,
    hasSerials,
    MADE_RULES,
    RETEST_RULES,
    WAYS,
    wayOf,
    type Asked,
    type FactAsked,
    type MarkingPlan,
    type Way
  } from '../../core/catalogue/plan.ts';
  import {
    ANSWERS,
    SITUATIONS,
    type Answer,
    type Situation
  } from '../../core/faults/situations.ts';
  import Blank from './Blank.svelte';
  import PlanPlaces from './PlanPlaces.svelte';
  import PlanSigners from './PlanSigners.svelte';
  import Word from './Word.svelte';

  interface Props {
    plan: MarkingPlan;
    schemes: readonly { code: string; name: string }[];
    disabled: boolean;
    onchange: (plan: MarkingPlan) => void;
  }
  let { plan, schemes, disabled, onchange }: Props = $props();

  const set = (change: Partial<MarkingPlan>) => onchange({ ...plan, ...change });
  const words = <T extends string>(values: readonly T[], says: Partial<Record<T, string>> = {}) =>
    values.map((value) => ({ value, says: says[value] ?? value }));
  const whole = (text: string): number | null => {
    const n = Math.round(Number(text));
    return text.trim() === '' || !Number.isFinite(n) || n < 1 ? null : n;
  };

  const WHEN: Record<(typeof CHECKPOINTS)[number], string> = {
    receive: 'received',
    'put away': 'put away',
    move: 'moved',
    transfer: 'transferred',
    issue: 'used in a build',
    output: 'made',
    ship: 'shipped',
    return: 'returned',
    gain: 'found',
    loss: 'lost or scrapped',
    count: 'counted'
  };
  let each = $state(false);
  const way = $derived(each ? null : wayOf(plan));
  const serials = $derived(hasSerials(plan.identity));
  const lots = $derived(hasLots(plan.identity));
  const number = $derived(serials ? 'serial' : 'lot');

  const setFact = (index: number, change: Partial<FactAsked>) =>
    set({ facts: plan.facts.map((fact, at) => (at === index ? { ...fact, ...change } : fact)) });
  const ANSWER_SAYS: Record<Answer, string> = {
    stop: 'it is refused',
    'second person': 'it goes on only when a second person approves it',
    reason: 'it goes on only with a written reason',
    note: 'it goes on and is shown'
  };
  /**
   * Faults with the same answer make one sentence's worth of choices; those that cannot come up are
   * left out.
   */
  const situations = $derived(
    (Object.keys(SITUATIONS) as Situation[]).filter(
      (situation) =>
        plan.identity !== 'none' &&
        (situation !== 'off limits' || plan.facts.some((fact) => fact.kind === 'number')) &&
        (situation !== 'fact missing' || plan.facts.some((fact) => fact.required)) &&
        (situation !== 'date missing' || [plan.expires, plan.made, plan.retest].includes('entered'))
    )
  );
  const schemeWords = $derived([
    { value: '', says: 'typed or scanned' },
    ...schemes.map((scheme) => ({
      value: scheme.code,
      says: `made by ${scheme.code}, ${scheme.name}`
    }))
  ]);
</script>

<div class="sentences">
  <section>
    <h2>Number</h2>
    <p>
      It is marked <Word
        label="How it is marked"
        {disabled}
        value={plan.identity}
        options={[
          { value: 'none', says: 'by quantity only, without a number' },
          { value: 'lot', says: 'by lot' },
          { value: 'serial', says: 'by serial, every unit its own' },
          { value: 'serial-in-lot', says: 'by serial within a lot' }
        ]}
        onchange={(identity) =>
          set({
            identity,
            ...(identity === 'none'
              ? { expires: 'not kept', made: 'not kept', retest: 'not kept', facts: [] }
              : {})
          })}
      />.
    </p>
    {#if plan.identity !== 'none'}
      <p>
        Its {number} is asked <Word
          label="When its number is asked"
          {disabled}
          value={way ?? 'each'}
          options={[
            ...(Object.keys(WAYS) as Way[]).map((value) => ({
              value: value as string,
              says: value as string
            })),
            { value: 'each', says: 'step by step as follows' }
          ]}
          onchange={(value) => {
            each = value === 'each';
            if (value !== 'each') set({ asks: WAYS[value as Way] });
          }}
        />{way ? '.' : ':'}
      </p>
      {#if !way}
        <p class="steps">
          {#each CHECKPOINTS as checkpoint, index (checkpoint)}<span class="step"
              >when {WHEN[checkpoint]}
              <Word
                label="When {WHEN[checkpoint]}"
                {disabled}
                value={plan.asks[checkpoint]}
                options={words<Asked>(ASKED)}
                onchange={(asked) => set({ asks: { ...plan.asks, [checkpoint]: asked } })}
              />{index < CHECKPOINTS.length - 1 ? ', ' : '.'}</span
            >{/each}
        </p>
      {/if}
      {#if lots}<p>
          Lot numbers are <Word
            label="Where lot numbers come from"
            {disabled}
            value={plan.lotScheme ?? ''}
            options={schemeWords}
            onchange={(scheme) => set({ lotScheme: scheme || null })}
          />.
        </p>{/if}
      {#if serials}<p>
          Serials are <Word
            label="Where serials come from"
            {disabled}
            value={plan.serialScheme ?? ''}
            options={schemeWords}
            onchange={(scheme) => set({ serialScheme: scheme || null })}
          />.
        </p>{/if}
    {/if}
  </section>
  {#if plan.identity !== 'none'}
    <section>
      <h2>Dates</h2>
      <p>
        Its expiry is <Word
          label="Where its expiry comes from"
          {disabled}
          value={plan.expires}
          options={words(EXPIRY_RULES, {
            entered: 'entered, always',
            'if given': 'taken where it is given',
            computed: 'computed from its shelf life',
            components: 'the earliest of what it was made of',
            'not kept': 'not kept'
          })}
          onchange={(expires) => set({ expires })}
        />{#if plan.expires === 'computed'}&nbsp;of <Blank
            label="Shelf life in days"
            {disabled}
            numeric
            value={plan.shelfLifeDays?.toString() ?? ''}
            placeholder="its own"
            width="7ch"
            onchange={(text) => set({ shelfLifeDays: whole(text) })}
          /> days{plan.shelfLifeDays === null
            ? ', as the product says'
            : ', unless the product says otherwise'}, counted from the day it was made where that is
          known{/if}.
      </p>
      <p>
        The day it was made is <Word
          label="The day it was made"
          {disabled}
          value={plan.made}
          options={words(MADE_RULES, {
            entered: 'entered when it is received',
            'if given': 'taken where it is given',
            'not kept': 'not kept for what is received'
          })}
          onchange={(made) => set({ made })}
        />.
      </p>
      <p>
        A date to test it again is <Word
          label="The retest date"
          {disabled}
          value={plan.retest}
          options={words(RETEST_RULES, {
            entered: 'entered, always',
            'if given': 'taken where it is given',
            computed: 'computed'
          })}
          onchange={(retest) => set({ retest })}
        />{#if plan.retest === 'computed'}, <Blank
            label="Days to the retest"
            {disabled}
            numeric
            value={plan.retestDays?.toString() ?? ''}
            onchange={(text) => set({ retestDays: whole(text) })}
          /> days later{/if}.
      </p>
      <p>
        Its warranty is <Blank
          label="Warranty in months"
          {disabled}
          numeric
          value={plan.warrantyMonths?.toString() ?? ''}
          placeholder="no"
          onchange={(text) => set({ warrantyMonths: whole(text) })}
        /> months from dispatch{plan.warrantyMonths === null
          ? ', unless the product says otherwise'
          : ''}.
      </p>
    </section>
    <section>
      <h2>Facts</h2>
      {#each plan.facts as fact, index (index)}
        <p>
          Taken with it: <Word
            label="Kind of fact {index + 1}"
            {disabled}
            value={fact.kind}
            options={words(FACT_KINDS, {
              text: 'a text',
              number: 'a number',
              choice: 'a choice',
              'yes/no': 'a yes or no',
              date: 'a date'
            })}
            onchange={(kind) =>
              setFact(index, {
                kind,
                ...(kind === 'number' ? {} : { unit: '', least: null, most: null })
              })}
          /> called
          <Blank
            label="Name of fact {index + 1}"
            {disabled}
            value={fact.name}
            width="{Math.max(12, fact.name.length + 2)}ch"
            placeholder="name"
            onchange={(name) => setFact(index, { name })}
          />{#if fact.kind === 'number'}&nbsp;in <Blank
              label="Unit of fact {index + 1}"
              {disabled}
              value={fact.unit}
              placeholder="unit"
              onchange={(unit) => setFact(index, { unit })}
            />, from <Blank
              label="Least of fact {index + 1}"
              {disabled}
              numeric
              value={fact.least ?? ''}
              placeholder="any"
              onchange={(least) => setFact(index, { least: least.trim() || null })}
            /> to <Blank
              label="Most of fact {index + 1}"
              {disabled}
              numeric
              value={fact.most ?? ''}
              placeholder="any"
              onchange={(most) => setFact(index, { most: most.trim() || null })}
            />{:else if fact.kind === 'choice'}, one of <Blank
              label="Choices of fact {index + 1}"
              {disabled}
              value={fact.choices.join(', ')}
              width="26ch"
              placeholder="red, blue"
              onchange={(text) =>
                setFact(index, {
                  choices: text
                    .split(',')
                    .map((one) => one.trim())
                    .filter(Boolean)
                })}
            />{/if}; it
          <Word
            label="Whether fact {index + 1} is required"
            {disabled}
            value={fact.required ? 'must' : 'may'}
            options={[
              { value: 'must', says: 'must be given' },
              { value: 'may', says: 'may be left out' }
            ]}
            onchange={(required) => setFact(index, { required: required === 'must' })}
          />.
          {#if !disabled}<button
              type="button"
              class="out"
              aria-label="Take fact {index + 1} out"
              onclick={() => set({ facts: plan.facts.toSpliced(index, 1) })}>✕</button
            >{/if}
        </p>
      {:else}<p class="soft">Nothing else is taken with it.</p>{/each}
      {#if !disabled}<button
          type="button"
          class="act"
          onclick={() =>
            set({
              facts: [
                ...plan.facts,
                {
                  name: '',
                  kind: 'text',
                  unit: '',
                  least: null,
                  most: null,
                  choices: [],
                  required: true
                }
              ]
            })}>Take another fact</button
        >{/if}
    </section>
    <section>
      <h2>When something is wrong</h2>
      {#each situations as situation (situation)}
        <p>
          Where {SITUATIONS[situation].says}, <Word
            label="Where {SITUATIONS[situation].says}"
            {disabled}
            value={plan.answers[situation]}
            options={words<Answer>(ANSWERS, ANSWER_SAYS)}
            onchange={(answer) => set({ answers: { ...plan.answers, [situation]: answer } })}
          />.
        </p>
      {/each}
      <p class="soft">
        Stock that is short, a wrong product and a serial already on hand are always refused.
      </p>
    </section>
  {/if}
  <PlanSigners {plan} {disabled} onset={set} />
  <PlanPlaces {plan} {disabled} onset={set} />
</div>

<style>
  .sentences {
    display: grid;
    gap: 18px;
    font-size: 16.5px;
    line-height: 1.85;
    max-width: 62ch;
  }
  .sentences :global(h2) {
    margin-bottom: 2px;
  }
  .steps {
    padding-left: 1.2em;
  }
  .step {
    white-space: nowrap;
  }
  .soft {
    font-size: 15px;
  }
  .out {
    border: 0;
    background: none;
    color: var(--ink-soft);
    cursor: pointer;
    min-width: 28px;
    min-height: 28px;
  }
</style>
