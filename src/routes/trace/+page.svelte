<script lang="ts">
  import Tag from '$lib/ui/mark/Tag.svelte';
  import { sayQuantity } from '$lib/ui/say';

  let { data } = $props();
</script>

<svelte:head><title>Trace · Earmark</title></svelte:head>
<div class="screen">
  <h1>Where did this come from, and where did it all go?</h1>
  <p class="soft">Scan or type any lot, serial, supplier’s number or document in the field above <kbd>/</kbd>. Or begin with one of these.</p>
  {#if data.held.length > 0}
    <section><h2>Held now</h2><div class="tags" data-list>{#each data.held as mark (mark.id)}<Tag kind={mark.kind} number={mark.number} under="{mark.product} · {sayQuantity(mark.onHand)} {mark.unit}" state="held" href="/trace/{mark.id}?direction=downstream" />{/each}</div></section>
  {/if}
  <section><h2>Latest of each product</h2>
    <div class="tags" data-list>
      {#each data.recent as mark (mark.id)}<Tag kind={mark.kind} number={mark.number} under="{mark.product} {mark.name}" state={mark.state} href="/trace/{mark.id}?direction={mark.kind === 'serial' ? 'upstream' : 'downstream'}" />
      {:else}<p class="soft">No mark has been booked yet. Receive goods, and they can be traced from that moment.</p>{/each}
    </div>
  </section>
</div>

<style>
  .screen { padding: 26px 28px; display: grid; gap: 20px; align-content: start; background: var(--paper); min-height: 100%; }
  .tags { display: grid; grid-template-columns: repeat(auto-fill, minmax(220px, 1fr)); gap: 10px; margin-top: 8px; }
</style>
