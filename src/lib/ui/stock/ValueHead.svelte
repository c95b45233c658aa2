<!-- The two sides of value: as it stands, and what changed it. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import Tabs from '../parts/Tabs.svelte';
  import StockNav from './StockNav.svelte';

  let { children }: { children: Snippet } = $props();
  const SIDES = [
    ['/value', 'As it stands'],
    ['/value/changes', 'What changed it']
  ] as const;
</script>

<StockNav />
<div class="screen">
  <div class="top">
    <h1>Value</h1>
    <Tabs label="Value" items={SIDES} />
  </div>
  {@render children()}
</div>

<style>
  .screen {
    padding: 16px 24px 32px;
    display: grid;
    gap: 16px;
  }
  .top {
    display: flex;
    align-items: baseline;
    gap: 22px;
  }
  @media (max-width: 700px) {
    .screen {
      padding: 12px;
      overflow-x: auto;
    }
  }
</style>
