<!-- What was ordered of a transfer, product by product: how much, and how far it is. -->
<script lang="ts">
  import { quantity } from '$lib/core/quantity/quantity.ts';
  import type { TransferLine } from '$lib/core/stock/transfer-line.ts';
  import { sayAmount } from '../parts/say.ts';
  import WideTable from '../parts/WideTable.svelte';

  interface Props {
    lines: readonly TransferLine[];
    /** How much of each product stands on the sheet that is being filled; none where there is none. */
    onSheet?: ReadonlyMap<string, string>;
  }
  let { lines, onSheet }: Props = $props();
  const sheet = (line: TransferLine): string => onSheet?.get(line.product) ?? '0';
  const reached = (line: TransferLine): boolean => quantity(sheet(line)).gte(line.left);
</script>

<WideTable of="what was ordered">
  <table class="plain">
    <thead
      ><tr
        ><th scope="col">Ordered</th><th scope="col" class="right">How much</th><th
          scope="col"
          class="right">Has left</th
        >{#if onSheet}<th scope="col" class="right">On this sheet</th>{:else}<th
            scope="col"
            class="right">Has arrived</th
          >{/if}<th scope="col" class="right">To leave</th></tr
      ></thead
    >
    <tbody>
      {#each lines as line (line.product)}
        <tr
          ><td><b class="number">{line.product}</b> <span class="soft">{line.name}</span></td>
          <td class="right number">{sayAmount(line.quantity, line.unit)}</td>
          <td class="right number">{sayAmount(line.gone, line.unit)}</td>
          <td class="right number" class:reached={onSheet && line.left !== '0' && reached(line)}
            >{sayAmount(onSheet ? sheet(line) : line.arrived, line.unit)}</td
          >
          <td class="right number"
            >{#if line.left === '0'}<span class="good">all of it has left</span>{:else}{sayAmount(
                line.left,
                line.unit
              )}{/if}</td
          ></tr
        >
      {/each}
    </tbody>
  </table>
</WideTable>

<style>
  .reached {
    font-weight: 700;
  }
</style>
