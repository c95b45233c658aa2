<!-- The other units a product is counted in: cartons, drums, pallets. -->
<script lang="ts">
  import type { ProductRecord } from '../../../core/catalogue/product-record.ts';
  import { InPlace } from '../../parts/in-place.svelte.ts';
  import ReadFirst from '../../parts/ReadFirst.svelte';
  import { fieldError } from '../../parts/refusal.ts';
  import Sentences from '../../parts/Sentences.svelte';
  import TextField from '../../parts/TextField.svelte';
  import type { Keeper } from './keeper.ts';
  import { unitsBody, unitsForm, type UnitsForm } from './product-form.ts';
  import { sayUnits } from './say-product.ts';

  let { product, keep, mayEdit }: { product: ProductRecord; keep: Keeper; mayEdit: boolean } =
    $props();
  const place = new InPlace<UnitsForm>(
    () => {
      const form = unitsForm(product);
      return form.units.length > 0 ? form : { units: [blank()] };
    },
    (form) => keep((before) => ({ ...before, ...unitsBody(form) }))
  );
  const blank = (): UnitsForm['units'][number] => ({ name: '', holds: '', gtin: '' });
  const pathsOf = (index: number): string[] =>
    ['', '.name', '.holds', '.gtin'].map((end) => `units[${index}]${end}`);
  const known = $derived((place.form?.units ?? []).flatMap((_, index) => pathsOf(index)));
</script>

<ReadFirst title="Other units it is counted in" {place} {mayEdit} {known}>
  {#snippet read()}<Sentences says={sayUnits(product)} />{/snippet}
  {#snippet edit(form)}
    {#each form.units as unit, index (index)}
      {@const [whole, ...own] = pathsOf(index)}
      <div class="unit">
        <TextField
          label="Unit {index + 1}"
          most={20}
          bind:value={unit.name}
          error={fieldError(place.refusal, whole!, own[0]!)}
        />
        <TextField
          label="holds"
          unit={product.unit}
          keys="decimal"
          most={20}
          bind:value={unit.holds}
          error={fieldError(place.refusal, own[1]!)}
        />
        <TextField
          label="its GTIN"
          keys="numeric"
          most={14}
          bind:value={unit.gtin}
          error={fieldError(place.refusal, own[2]!)}
        />
        <button
          type="button"
          class="act quiet"
          aria-label="Remove unit {index + 1}"
          onclick={() => (form.units = form.units.toSpliced(index, 1))}>✕</button
        >
      </div>
    {/each}
    <button
      type="button"
      class="act quiet add"
      onclick={() => (form.units = [...form.units, blank()])}>Add a unit</button
    >
  {/snippet}
</ReadFirst>

<style>
  .unit {
    display: grid;
    grid-template-columns: minmax(110px, 1fr) minmax(110px, 1fr) minmax(150px, 1fr) auto;
    gap: 12px;
    align-items: start;
  }
  .unit .act {
    margin-top: 20px;
  }
  .add {
    justify-self: start;
  }
  @media (max-width: 700px) {
    .unit {
      grid-template-columns: 1fr 1fr;
    }
  }
</style>
