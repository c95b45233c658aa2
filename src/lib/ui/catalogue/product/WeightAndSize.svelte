<!-- What one of a product weighs and measures. -->
<script lang="ts">
  import type { ProductRecord } from '../../../core/catalogue/product-record.ts';
  import { InPlace } from '../../parts/in-place.svelte.ts';
  import ReadFirst from '../../parts/ReadFirst.svelte';
  import { fieldError } from '../../parts/refusal.ts';
  import Sentences from '../../parts/Sentences.svelte';
  import TextField from '../../parts/TextField.svelte';
  import type { Keeper } from './keeper.ts';
  import { sizeBody, sizeForm, type SizeForm } from './product-form.ts';
  import { saySize } from './say-product.ts';

  let { product, keep, mayEdit }: { product: ProductRecord; keep: Keeper; mayEdit: boolean } =
    $props();
  const place = new InPlace(
    () => sizeForm(product),
    (form) => keep((before) => ({ ...before, ...sizeBody(form) }))
  );
  const FIELDS: readonly (readonly [keyof SizeForm, label: string, unit: string])[] = [
    ['netWeightKg', 'Net', 'kg'],
    ['grossWeightKg', 'Gross', 'kg'],
    ['lengthCm', 'Length', 'cm'],
    ['widthCm', 'Width', 'cm'],
    ['heightCm', 'Height', 'cm']
  ];
  const PATHS = FIELDS.map(([path]) => path);
</script>

<ReadFirst title="Weight and size of one" {place} {mayEdit} known={PATHS}>
  {#snippet read()}<Sentences says={saySize(product)} />{/snippet}
  {#snippet edit(form)}
    <div class="form-fields">
      {#each FIELDS as [path, label, unit] (path)}<TextField
          {label}
          {unit}
          keys="decimal"
          most={20}
          bind:value={form[path]}
          error={fieldError(place.refusal, path)}
        />{/each}
    </div>
  {/snippet}
</ReadFirst>
