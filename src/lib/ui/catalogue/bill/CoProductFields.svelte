<!-- What else a build makes, being changed. -->
<script lang="ts">
  import type { Choice } from '../../../core/catalogue/choice.ts';
  import type { CoProduct } from '../../../core/catalogue/bill.ts';
  import CodeField from '../../parts/CodeField.svelte';

  interface Props {
    co: CoProduct;
    /** Which of them it is, from 1. */
    nth: number;
    /** The unit of what is made. */
    unit: string;
    known: Choice | undefined;
    error: string;
    onchoice: (choice: Choice | null) => void;
    onremove: () => void;
  }
  let { co = $bindable(), nth, unit, known, error, onchoice, onremove }: Props = $props();
</script>

<div class="co">
  <CodeField
    label="Co-product {nth}"
    quiet
    of="product"
    bind:value={co.product}
    name={known?.name ?? ''}
    {error}
    {onchoice}
  /><input
    class="field number"
    bind:value={co.quantity}
    inputmode="decimal"
    aria-label="Quantity of co-product {nth}"
  />
  {known?.unit ?? ''} with each {unit}, taking
  <input
    class="field number"
    bind:value={co.share}
    inputmode="decimal"
    aria-label="Share of co-product {nth}"
  />
  % of what goes in
  <button type="button" class="act quiet" aria-label="Remove co-product {nth}" onclick={onremove}
    >✕</button
  >
</div>

<style>
  .co {
    display: flex;
    gap: 8px;
    align-items: baseline;
    flex-wrap: wrap;
  }
  .field {
    width: 84px;
  }
</style>
