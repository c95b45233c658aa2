<!-- How much of a thing goes: typed, save of a serial. -->
<script lang="ts">
  import { parseQuantity } from '../../core/quantity/quantity.ts';
  import { sayQuantity } from '../parts/say.ts';
  import type { Part } from './moving.ts';

  interface Props {
    part: Part;
    mayBook: boolean;
    onset: (change: Partial<Part>) => void;
  }
  let { part, mayBook, onset }: Props = $props();
</script>

{#if part.row.kind === 'serial' || !mayBook}<b class="number">{sayQuantity(part.quantity)}</b
  >{:else}<input
    class="field number amount"
    inputmode="decimal"
    value={part.quantity}
    aria-label="How much of {part.row.number ?? part.row.product}"
    aria-invalid={parseQuantity(part.quantity) === null}
    onchange={(event) => onset({ quantity: event.currentTarget.value })}
  />{/if}

<style>
  .amount {
    width: 96px;
    text-align: right;
  }
</style>
