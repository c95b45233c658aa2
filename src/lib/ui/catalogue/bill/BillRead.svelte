<!-- A version of a bill as it is read: how much of each part goes in, and how it is named. -->
<script lang="ts">
  import type { Bill } from '../../../core/catalogue/bill.ts';
  import type { Choice } from '../../../core/catalogue/choice.ts';
  import Sentences from '../../parts/Sentences.svelte';
  import { sayQuantity } from '../../parts/say.ts';
  import { sayBill, sayPart } from './say-bill.ts';

  interface Props {
    bill: Bill;
    unit: string;
    currency: string;
    /** What the products it names are called, and counted in. */
    others: readonly Choice[];
  }
  let { bill, unit, currency, others }: Props = $props();
  const known = $derived(new Map(others.map((one) => [one.code, one])));
  const nameOf = (product: string): string => known.get(product)?.name ?? '';
  const says = $derived(sayBill(bill, { unit, currency }, nameOf));
</script>

<ol>
  {#each bill.parts as part, index (index)}
    <li>
      <span class="amount"
        ><b class="number">{sayQuantity(part.quantity)}</b>
        <span>{known.get(part.product)?.unit ?? ''}</span>{#if part.per === 'batch'}<br /><span
            class="small soft">for each batch</span
          >{/if}</span
      >
      <span class="what"
        ><a class="number" href="/setup/products/{encodeURIComponent(part.product)}"
          >{part.product}</a
        >
        {nameOf(part.product)}</span
      >
      <span class="how">{sayPart(part).join('; ')}</span>
    </li>
  {:else}<li class="soft">No parts.</li>{/each}
</ol>
{#if says.length > 0}<Sentences {says} />{/if}

<style>
  ol {
    display: grid;
    margin-bottom: 8px;
  }
  li {
    display: grid;
    grid-template-columns: 110px minmax(200px, 2fr) minmax(200px, 3fr);
    gap: 4px 16px;
    align-items: baseline;
    padding: 7px 0;
    border-bottom: 1px solid #ebe5da;
    content-visibility: auto;
    contain-intrinsic-height: 40px;
  }
  .amount {
    text-align: right;
  }
  .how {
    color: var(--ink-soft);
  }
  @media (max-width: 800px) {
    li {
      grid-template-columns: 90px minmax(0, 1fr);
    }
    .how {
      grid-column: 2;
    }
  }
</style>
