<!--
  What a product must be, or must be for a customer: read in sentences, changed where they stand. Each
  change is a version of its own.
-->
<script lang="ts">
  import type { Spec } from '../../core/quality/spec.ts';
  import { asSeen, send } from '../frame/api.ts';
  import { InPlace } from '../parts/in-place.svelte.ts';
  import ReadFirst from '../parts/ReadFirst.svelte';
  import { fieldError } from '../parts/refusal.ts';
  import Sentences from '../parts/Sentences.svelte';
  import TextField from '../parts/TextField.svelte';
  import TickField from '../parts/TickField.svelte';
  import { saySpec } from './say-spec.ts';
  import { blankLimit, specBody, specForm } from './spec-form.ts';
  import WideTable from '../parts/WideTable.svelte';

  interface Props {
    product: string;
    /** Whose limits; '' for the product’s own. */
    partner: string;
    present: { version: number; spec: Spec } | null;
    /** Entity tag of what was seen of them; null where there are none yet. */
    tag: string | null;
    mayEdit: boolean;
  }
  let { product, partner, present, tag, mayEdit }: Props = $props();
  const query = $derived(partner ? `?partner=${encodeURIComponent(partner)}` : '');
  const place = new InPlace(
    () => specForm(present?.spec),
    (form) =>
      send(
        'PUT',
        `/api/v1/products/${encodeURIComponent(product)}/spec${query}`,
        specBody(form),
        asSeen(tag)
      )
  );
  const next = $derived((present?.version ?? 0) + 1);
  const title = $derived(present ? `Limits, version ${present.version}` : 'Limits');
</script>

<ReadFirst {title} {place} {mayEdit} keepAs="Keep as version {next}" known={['retestDays']}>
  {#snippet read()}<Sentences says={saySpec(present?.spec ?? null, partner !== '')} />{/snippet}
  {#snippet edit(form)}
    <WideTable of="characteristics">
      <table class="plain">
        <thead
          ><tr
            ><th scope="col">Characteristic</th><th scope="col">Kind</th><th scope="col">Unit</th
            ><th scope="col">Least</th><th scope="col">Most</th><th scope="col">Answers</th><th
              scope="col">Conforming</th
            ><th scope="col">Must</th><th><span class="visually-hidden">Remove</span></th></tr
          ></thead
        >
        <tbody
          >{#each form.limits as line, index (index)}
            <tr
              ><td
                ><input
                  class="field"
                  bind:value={line.name}
                  maxlength="100"
                  aria-label="Characteristic {index + 1}"
                /></td
              >
              <td
                ><select
                  class="field"
                  bind:value={line.kind}
                  aria-label="Kind of characteristic {index + 1}"
                  >{#each ['number', 'choice', 'yes/no', 'text'] as kind (kind)}<option value={kind}
                      >{kind}</option
                    >{/each}</select
                ></td
              >
              <td
                ><input
                  class="field short"
                  bind:value={line.unit}
                  disabled={line.kind !== 'number'}
                  aria-label="Unit of characteristic {index + 1}"
                /></td
              >
              <td
                ><input
                  class="field number short"
                  bind:value={line.least}
                  disabled={line.kind !== 'number'}
                  inputmode="decimal"
                  aria-label="Least of characteristic {index + 1}"
                /></td
              >
              <td
                ><input
                  class="field number short"
                  bind:value={line.most}
                  disabled={line.kind !== 'number'}
                  inputmode="decimal"
                  aria-label="Most of characteristic {index + 1}"
                /></td
              >
              <td
                ><input
                  class="field"
                  bind:value={line.choices}
                  disabled={line.kind !== 'choice'}
                  placeholder={line.kind === 'choice' ? 'tight, loose' : ''}
                  aria-label="Answers of characteristic {index + 1}"
                /></td
              >
              <td
                ><input
                  class="field"
                  bind:value={line.good}
                  disabled={line.kind !== 'choice' && line.kind !== 'yes/no'}
                  aria-label="Conforming answers of characteristic {index + 1}"
                /></td
              >
              <td
                ><input
                  type="checkbox"
                  bind:checked={line.required}
                  aria-label="Characteristic {index + 1} must be tested"
                /></td
              >
              <td
                ><button
                  type="button"
                  class="act quiet"
                  aria-label="Remove characteristic {index + 1}"
                  onclick={() => (form.limits = form.limits.toSpliced(index, 1))}>✕</button
                ></td
              ></tr
            >
          {/each}</tbody
        >
      </table>
    </WideTable>
    <div>
      <button
        type="button"
        class="act quiet"
        onclick={() => (form.limits = [...form.limits, blankLimit()])}>Add a characteristic</button
      >
    </div>
    {#if !partner}
      <TickField label="A result outside holds the mark" bind:value={form.holdOnFail} />
      <div class="form-fields">
        <TextField
          label="Tested again after"
          unit="days"
          keys="numeric"
          most={5}
          bind:value={form.retestDays}
          hint="Empty: never"
          error={fieldError(place.refusal, 'retestDays')}
        />
        <TextField
          label="Sample"
          most={200}
          bind:value={form.sampling}
          hint="In words, such as 3 of each lot"
        />
      </div>
    {/if}
  {/snippet}
</ReadFirst>

<style>
  td {
    padding: 5px 6px;
  }
  td .field {
    width: 100%;
    min-width: 90px;
    height: 36px;
  }
  td .short {
    min-width: 64px;
    width: 76px;
  }
  input[type='checkbox'] {
    width: 18px;
    height: 18px;
    accent-color: var(--brass);
  }
</style>
