<!-- How a product is marked: read in sentences, changed where they stand, what that means told first. -->
<script lang="ts">
  import type { Marking } from '../../../core/catalogue/marking.ts';
  import { hasLots, hasSerials } from '../../../core/catalogue/plan.ts';
  import type { ProductRecord } from '../../../core/catalogue/product-record.ts';
  import { makeNumber, type Period, type Segment } from '../../../core/numbers/scheme.ts';
  import { send } from '../../frame/api.ts';
  import ChoiceField from '../../parts/ChoiceField.svelte';
  import { InPlace } from '../../parts/in-place.svelte.ts';
  import ReadFirst from '../../parts/ReadFirst.svelte';
  import { fieldError } from '../../parts/refusal.ts';
  import Sentences from '../../parts/Sentences.svelte';
  import TextField from '../../parts/TextField.svelte';
  import type { Keeper } from './keeper.ts';
  import { MARKINGS, markingForm, markingPart, type MarkingForm } from './product-form.ts';
  import { SAY_MARKING, sayMarking, type NumberedBy } from './say-product.ts';

  interface Scheme {
    code: string;
    name: string;
    segments: readonly Segment[];
    reset: Period;
    last: number;
  }
  interface Props {
    product: ProductRecord;
    plans: readonly { code: string; name: string; identity: Marking }[];
    schemes: readonly Scheme[];
    /** A site, for numbers that name theirs. */
    site: string;
    today: string;
    keep: Keeper;
    mayEdit: boolean;
  }
  let { product, plans, schemes, site, today, keep, mayEdit }: Props = $props();
  interface Change {
    may: boolean;
    says: string[];
    owes: object | null;
  }
  /** What marking it otherwise would mean, as it was told last. */
  let told = $state.raw<{ of: Marking; change: Change } | null>(null);
  const place = new InPlace(
    () => markingForm(product),
    (form) => keep((before) => markingPart(before, form, identityOf(form)))
  );
  const wrong = (path: string): string => fieldError(place.refusal, path);
  /** A plan says how it is marked; without one it is chosen. */
  const identityOf = ({ plan, marking }: MarkingForm): Marking =>
    plans.find((one) => one.code === plan)?.identity ?? marking;
  const says = $derived(
    sayMarking(product, numberedBy(product.lotScheme), numberedBy(product.serialScheme))
  );
  const planChoices = $derived([
    ['', 'plain: its number at every step'] as const,
    ...plans.map(({ code, name }) => [code, `${code}, ${name}`] as const)
  ]);
  const schemeChoices = (plan: string) => [
    ['', plan ? 'as the plan says' : 'hand'] as const,
    ...schemes.map(({ code, name }) => [code, `${code}, ${name}`] as const)
  ];

  function numberedBy(code: string | null): NumberedBy {
    const scheme = schemes.find((one) => one.code === code);
    if (!scheme) return { scheme: code, next: null };
    const occasion = { site, product: product.code, day: today, shift: 'A' };
    const next = makeNumber(scheme, occasion, scheme.last + 1);
    return { scheme: scheme.code, next: next.ok ? next.number : null };
  }

  /** What marking it differently would mean, told before it is kept. */
  async function explain(form: MarkingForm): Promise<void> {
    const identity = identityOf(form);
    if (identity === product.marking) return;
    const path = `/api/v1/products/${encodeURIComponent(product.code)}/identity?to=${identity}`;
    const reply = await send<Change>('GET', path);
    if (reply.ok) told = { of: identity, change: reply.body };
  }
</script>

<ReadFirst
  title="How it is marked"
  {place}
  {mayEdit}
  known={['plan', 'marking', 'shelfLifeDays', 'warrantyMonths']}
>
  {#snippet read()}
    <Sentences {says} />
    {#if place.justKept && told?.of === product.marking && told.change.owes}<p class="change">
        What is on hand has no numbers yet:
        <a href="/identify?product={encodeURIComponent(product.code)}">give the numbers</a>.
      </p>{/if}
  {/snippet}
  {#snippet edit(form)}
    {@const identity = identityOf(form)}
    <div class="form-fields">
      <ChoiceField
        label="Marking plan"
        bind:value={form.plan}
        choices={planChoices}
        error={wrong('plan')}
        onchange={() => explain(form)}
      />
      {#if form.plan}<ChoiceField
          label="Marked by"
          value={identity}
          choices={MARKINGS}
          disabled
          hint="As plan {form.plan} says"
        />{:else}<ChoiceField
          label="Marked by"
          bind:value={form.marking}
          choices={MARKINGS}
          hint={SAY_MARKING[identity]}
          error={wrong('marking')}
          onchange={() => explain(form)}
        />{/if}
      <TextField
        label="Shelf life"
        unit="days"
        keys="numeric"
        most={6}
        bind:value={form.shelfLifeDays}
        hint={form.plan ? 'Empty: as the plan says' : 'Empty: kept without expiry'}
        error={wrong('shelfLifeDays')}
      />
      <TextField
        label="Warranty"
        unit="months"
        keys="numeric"
        most={4}
        bind:value={form.warrantyMonths}
        error={wrong('warrantyMonths')}
      />
      {#if hasLots(identity)}<ChoiceField
          label="Lots are numbered by"
          bind:value={form.lotScheme}
          choices={schemeChoices(form.plan)}
        />{/if}
      {#if hasSerials(identity)}<ChoiceField
          label="Serials are numbered by"
          bind:value={form.serialScheme}
          choices={schemeChoices(form.plan)}
        />{/if}
    </div>
    {#if told?.of === identity && identity !== product.marking}
      {@const { change } = told}
      <div class="change" class:stuck={!change.may} role="status">
        <b>{change.may ? 'What that means' : 'That cannot be done now'}</b>
        <Sentences says={change.says} />
        {#if change.owes}<p>Keep it, then give them.</p>{/if}
      </div>{/if}
  {/snippet}
</ReadFirst>

<style>
  .change {
    background: var(--amber);
    padding: 10px 14px;
    display: grid;
    gap: 4px;
    font-size: 14px;
  }
  .change.stuck {
    background: var(--rust-pale);
    color: var(--rust);
  }
</style>
