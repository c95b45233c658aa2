<!-- What has to be there before so many are made: bought parts in sum over all levels, short ones first. -->
<script lang="ts">
  import type { TreeNeed } from '../bill-tree.ts';
  import AndMore from '../../parts/AndMore.svelte';
  import { sayQuantity } from '../../parts/say.ts';
  import WideTable from '../../parts/WideTable.svelte';

  let { needs }: { needs: readonly TreeNeed[] } = $props();
  const MOST = 100;
  const bought = $derived(needs.filter((need) => !need.made));
  const isShort = (need: TreeNeed): boolean => need.short !== '0';
  const rows = $derived([...bought.filter(isShort), ...bought.filter((need) => !isShort(need))]);
</script>

<section aria-label="To have ready">
  <h2>To have ready</h2>
  <WideTable of="what to have ready">
    <table class="plain">
      <thead
        ><tr
          ><th scope="col">Product</th><th scope="col" class="right">Planned</th><th
            scope="col"
            class="right">On hand</th
          ><th scope="col" class="right">Short</th></tr
        ></thead
      >
      <tbody
        >{#each rows.slice(0, MOST) as need (need.product)}<tr
            ><td class="number">{need.product}</td><td class="right"
              ><span class="number">{sayQuantity(need.planned)}</span>
              <span class="small soft">{need.unit}</span></td
            ><td class="right"
              ><span class="number">{sayQuantity(need.onHand)}</span>
              <span class="small soft">{need.unit}</span></td
            ><td class="right" class:stop={isShort(need)}
              >{#if isShort(need)}<span class="number">{sayQuantity(need.short)}</span>
                <span class="small">{need.unit}</span>{/if}</td
            ></tr
          >{:else}<tr><td colspan="4" class="soft">Nothing that is bought.</td></tr>{/each}</tbody
      >
    </table>
  </WideTable>
  <AndMore shown={Math.min(MOST, rows.length)} total={rows.length} />
</section>

<style>
  section {
    display: grid;
    gap: 8px;
    align-content: start;
    min-width: 0;
  }
  h2 {
    font-size: 15px;
    color: var(--ink);
  }
</style>
