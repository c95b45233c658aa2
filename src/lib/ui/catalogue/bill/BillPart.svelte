<!-- A bill, read first; changed where it stands, which makes its next version. -->
<script lang="ts">
  import { tick } from 'svelte';
  import type { Bill } from '../../../core/catalogue/bill.ts';
  import type { Choice } from '../../../core/catalogue/choice.ts';
  import { asSeen, send } from '../../frame/api.ts';
  import DateField from '../../parts/DateField.svelte';
  import { InPlace } from '../../parts/in-place.svelte.ts';
  import ReadFirst from '../../parts/ReadFirst.svelte';
  import { fieldError } from '../../parts/refusal.ts';
  import TextField from '../../parts/TextField.svelte';
  import { billBody, billForm, blankCoProduct, blankPart, type PartLine } from './bill-form.ts';
  import BillRead from './BillRead.svelte';
  import CoProductFields from './CoProductFields.svelte';
  import PartFields from './PartFields.svelte';

  interface Props {
    product: { code: string; unit: string };
    /** The version that is shown; null where there is none yet. */
    bill: Bill | null;
    /** The last version there is; 0 where there is none. */
    last: number;
    /** Entity tag of what was seen of the bill; null where there is none yet. */
    tag: string | null;
    others: readonly Choice[];
    seesCosts: boolean;
    currency: string;
    today: string;
    mayEdit: boolean;
    /** Told the version that counts after something was kept, and whether it is a new one. */
    onkept: (version: number, isNew: boolean) => void;
  }
  let { product, bill, last, tag, others, seesCosts, currency, today, mayEdit, onkept }: Props =
    $props();
  let kept = { version: 0, isNew: false };
  const place = new InPlace(
    () => billForm(bill, today),
    async (form) => {
      const reply = await send<{ version: number }>(
        'PUT',
        `/api/v1/products/${encodeURIComponent(product.code)}/bill`,
        billBody(form, seesCosts),
        asSeen(tag)
      );
      if (reply.ok) kept = { version: reply.body.version, isNew: reply.status === 201 };
      return reply;
    }
  );
  /** Products that were chosen since. */
  let chosen = $state.raw<Choice[]>([]);
  const known = (code: string): Choice | undefined =>
    [...chosen, ...others].find((one) => one.code.toUpperCase() === code.trim().toUpperCase());
  const settle = (choice: Choice | null): void => {
    if (choice) chosen = [choice, ...chosen];
  };
  /** A part kept by quantity only can only be drawn. */
  function settlePart(line: PartLine, choice: Choice | null): void {
    settle(choice);
    if (choice?.marking === 'none') line.follow = 'drawn';
  }
  let form = $state<HTMLElement>();
  async function addPart(parts: PartLine[]): Promise<void> {
    parts.push(blankPart());
    await tick();
    form?.querySelector<HTMLElement>('.parts > li:last-child input')?.focus();
  }
  const wrongOf = (index: number): string =>
    fieldError(place.refusal, `parts[${index}]`, `parts[${index}].product`);
  const knownPaths = $derived([
    ...(place.form?.parts ?? []).flatMap((_, index) => [
      `parts[${index}]`,
      `parts[${index}].product`
    ]),
    ...(place.form?.coProducts ?? []).map((_, index) => `coProducts[${index}]`),
    ...['batch', 'validFrom', 'addedCost']
  ]);
  const title = $derived(bill ? `Version ${bill.version}` : 'The bill');
</script>

<ReadFirst
  {title}
  {place}
  {mayEdit}
  keepAs="Keep as version {last + 1}"
  known={knownPaths}
  onkept={() => onkept(kept.version, kept.isNew)}
>
  {#snippet read()}
    {#if bill}<BillRead {bill} {others} {currency} unit={product.unit} />
    {:else}<p class="soft">
        No bill yet. A build without a bill is a loose end: nobody can say what is missing.
      </p>{/if}
  {/snippet}
  {#snippet edit(typed)}
    <div bind:this={form} class="edit">
      <ol class="parts">
        {#each typed.parts as line, index (line)}
          <PartFields
            bind:line={typed.parts[index]!}
            nth={index + 1}
            known={known(line.product)}
            error={wrongOf(index)}
            onchoice={(choice) => settlePart(typed.parts[index]!, choice)}
            onremove={() => typed.parts.splice(index, 1)}
          />
        {:else}<li class="soft">No parts.</li>{/each}
      </ol>
      {#each typed.coProducts as co, index (co)}
        <CoProductFields
          bind:co={typed.coProducts[index]!}
          nth={index + 1}
          unit={product.unit}
          known={known(co.product)}
          error={fieldError(place.refusal, `coProducts[${index}]`)}
          onchoice={settle}
          onremove={() => typed.coProducts.splice(index, 1)}
        />
      {/each}
      <div class="acts">
        <button type="button" class="act" onclick={() => addPart(typed.parts)}>Add a part</button>
        <button
          type="button"
          class="act quiet"
          onclick={() => typed.coProducts.push(blankCoProduct())}>Add a co-product</button
        >
      </div>
      <div class="form-fields">
        {#if typed.batch !== '' || typed.parts.some((line) => line.per === 'batch')}<TextField
            label="One batch makes"
            unit={product.unit}
            keys="decimal"
            most={30}
            hint="Empty: the whole order is one"
            bind:value={typed.batch}
            error={fieldError(place.refusal, 'batch')}
          />{/if}
        {#if seesCosts}<TextField
            label="Making one adds"
            unit={currency}
            keys="decimal"
            most={30}
            hint="To what its parts cost"
            bind:value={typed.addedCost}
            error={fieldError(place.refusal, 'addedCost')}
          />{/if}
        <TextField label="What is new" most={2000} bind:value={typed.note} />
        <DateField
          label="It counts from"
          bind:value={typed.validFrom}
          error={fieldError(place.refusal, 'validFrom')}
        />
      </div>
      <p class="small soft">
        A bill is never changed: this is kept as a version of its own, and open orders keep theirs.
      </p>
    </div>
  {/snippet}
</ReadFirst>

<style>
  .edit {
    display: grid;
    gap: 14px;
    min-width: 0;
  }
  .acts {
    display: flex;
    gap: 10px;
  }
</style>
