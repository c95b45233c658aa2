<!-- What a product is: read in sentences, changed where they stand. -->
<script lang="ts">
  import type { ProductRecord } from '../../../core/catalogue/product-record.ts';
  import ChoiceField from '../../parts/ChoiceField.svelte';
  import { InPlace } from '../../parts/in-place.svelte.ts';
  import ReadFirst from '../../parts/ReadFirst.svelte';
  import { fieldError } from '../../parts/refusal.ts';
  import Sentences from '../../parts/Sentences.svelte';
  import TextField from '../../parts/TextField.svelte';
  import TickField from '../../parts/TickField.svelte';
  import { DECIMALS, whatBody, whatForm } from './product-form.ts';
  import type { Keeper } from './keeper.ts';
  import { sayWhat } from './say-product.ts';

  let { product, keep, mayEdit }: { product: ProductRecord; keep: Keeper; mayEdit: boolean } =
    $props();
  const place = new InPlace(
    () => whatForm(product),
    (form) => keep((before) => ({ ...before, ...whatBody(form) }))
  );
  const wrong = (path: string): string => fieldError(place.refusal, path);
</script>

<ReadFirst
  title="What it is"
  {place}
  {mayEdit}
  known={['name', 'unit', 'decimals', 'gtin', 'overReceiptPercent']}
>
  {#snippet read()}<Sentences says={sayWhat(product)} />{/snippet}
  {#snippet edit(form)}
    <div class="form-fields">
      <TextField label="Name" bind:value={form.name} error={wrong('name')} />
      <TextField label="Unit" bind:value={form.unit} most={20} error={wrong('unit')} />
      <ChoiceField
        label="Counted in"
        bind:value={form.decimals}
        choices={DECIMALS}
        error={wrong('decimals')}
      />
      <TextField
        label="GTIN"
        bind:value={form.gtin}
        most={14}
        keys="numeric"
        error={wrong('gtin')}
      />
      <TextField
        label="Over-receipt tolerance"
        unit="%"
        bind:value={form.overReceiptPercent}
        keys="decimal"
        most={12}
        hint="How much more than ordered may come in"
        error={wrong('overReceiptPercent')}
      />
    </div>
    <TickField label="Made here, from components" bind:value={form.made} />
  {/snippet}
</ReadFirst>
