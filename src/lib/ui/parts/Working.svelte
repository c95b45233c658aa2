<!-- The layout of a working screen: list, sheet, margin, and the tally that never leaves. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  let {
    list,
    sheet,
    margin,
    tally
  }: { list?: Snippet; sheet: Snippet; margin?: Snippet; tally?: Snippet } = $props();
</script>

<div class="working" class:without-list={!list} class:without-margin={!margin}>
  {#if list}<aside class="list" aria-label="List">{@render list()}</aside>{/if}
  <section class="sheet" aria-label="Sheet">{@render sheet()}</section>
  {#if margin}<aside class="margin" aria-label="What helps decide">{@render margin()}</aside>{/if}
  {#if tally}<footer class="tally" aria-label="Tally">{@render tally()}</footer>{/if}
</div>

<style>
  .working {
    height: 100%;
    display: grid;
    grid-template: 1fr auto / 272px minmax(0, 1fr) 268px;
    grid-template-areas: 'list sheet margin' 'list tally margin';
  }
  .without-list {
    grid-template-columns: minmax(0, 1fr) 268px;
    grid-template-areas: 'sheet margin' 'tally margin';
  }
  .without-margin {
    grid-template-columns: 272px minmax(0, 1fr);
    grid-template-areas: 'list sheet' 'list tally';
  }
  .without-list.without-margin {
    grid-template-columns: minmax(0, 1fr);
    grid-template-areas: 'sheet' 'tally';
  }
  .list {
    grid-area: list;
    overflow: auto;
    background: var(--paper);
    border-right: 1px solid var(--line);
  }
  .sheet {
    grid-area: sheet;
    overflow: auto;
    min-height: 0;
    display: flex;
    flex-direction: column;
    background: var(--panel);
  }
  .margin {
    grid-area: margin;
    overflow: auto;
    background: var(--paper);
    border-left: 1px solid var(--line);
    padding: 14px;
  }
  .tally {
    grid-area: tally;
    border-top: 2px solid var(--ink);
    background: var(--paper);
    padding: 8px 18px;
    display: flex;
    align-items: center;
    flex-wrap: wrap;
    gap: 6px 22px;
    min-height: 60px;
  }
  @media (max-width: 1150px) {
    .working:not(.without-list, .without-margin) {
      grid-template-columns: 216px minmax(0, 1fr) 216px;
    }
  }
  @media (max-width: 900px) {
    .working,
    .working.without-list,
    .working.without-margin {
      display: flex;
      flex-direction: column;
      height: 100%;
      overflow: auto;
    }
    .list {
      order: 3;
      border-right: 0;
      border-top: 1px solid var(--line);
      overflow: visible;
      flex: none;
    }
    .sheet {
      order: 1;
      flex: none;
      overflow: visible;
    }
    .margin {
      order: 2;
      border-left: 0;
      overflow: visible;
      flex: none;
    }
    .tally {
      order: 4;
      position: sticky;
      bottom: 0;
      flex: none;
      padding: 8px 12px;
      z-index: 5;
    }
  }
</style>
