<script lang="ts">
  import NumberDrawn from '$lib/ui/catalogue/NumberDrawn.svelte';
  import { sayReset } from '$lib/ui/catalogue/say-scheme.ts';
  import SchemeEditor from '$lib/ui/catalogue/SchemeEditor.svelte';
  import { fewOf, sayQuantity } from '$lib/ui/parts/say.ts';

  let { data } = $props();
  /** Code of the scheme that is changed; '' for a new one, null for none. */
  let editing = $state<string | null>(null);
  const occasionOf = (product: string) => ({
    site: data.site,
    product,
    day: data.today,
    shift: 'A'
  });
</script>

<svelte:head><title>Numbering · Setup · Earmark</title></svelte:head>
<div class="setup">
  <div class="head">
    <h1>Numbering schemes</h1>
    {#if data.mayEdit}<button
        class="act main"
        disabled={editing !== null}
        onclick={() => (editing = '')}>New scheme</button
      >{/if}
  </div>
  {#if editing === ''}<SchemeEditor
      scheme={null}
      occasion={occasionOf('PRODUCT')}
      onclose={() => (editing = null)}
    />{/if}
  <ul>
    {#each data.schemes as scheme (scheme.code)}
      {@const occasion = occasionOf(scheme.products[0] ?? 'PRODUCT')}
      <li>
        {#if editing === scheme.code}
          <SchemeEditor {scheme} {occasion} onclose={() => (editing = null)} />
        {:else}
          <div class="read">
            <p class="name"><b class="number">{scheme.code}</b><br />{scheme.name}</p>
            <div>
              <NumberDrawn {scheme} {occasion} count={scheme.last + 1} />
              <p class="small soft">
                Its counter {sayReset(scheme.reset)}; {scheme.last === 0
                  ? 'none was given yet in this period.'
                  : `${sayQuantity(String(scheme.last))} given so far in this period.`}
              </p>
            </div>
            <p class="small">
              {#if scheme.products.length > 0}<span class="soft">Numbers</span>
                <span class="number">{fewOf(scheme.products, 6)}</span>
              {:else}<span class="soft">Numbers nothing yet</span>{/if}
            </p>
            {#if data.mayEdit}<button
                class="act quiet"
                aria-label="Change {scheme.code}"
                disabled={editing !== null}
                onclick={() => (editing = scheme.code)}>Change</button
              >{/if}
          </div>
        {/if}
      </li>
    {:else}<li class="soft">
        No scheme yet. A scheme makes the next lot or serial number, so that nobody types one twice.
      </li>{/each}
  </ul>
</div>

<style>
  ul {
    display: grid;
  }
  li {
    border-bottom: 1px solid #ebe5da;
  }
  .read {
    display: grid;
    grid-template-columns: minmax(140px, 200px) minmax(0, 1fr) minmax(120px, 220px) 90px;
    gap: 20px;
    align-items: start;
    padding: 14px 10px;
  }
  .read > div {
    display: grid;
    gap: 8px;
  }
  .act {
    justify-self: end;
  }
  @media (max-width: 800px) {
    .read {
      grid-template-columns: minmax(0, 1fr);
      gap: 8px;
    }
    .act {
      justify-self: start;
    }
  }
</style>
