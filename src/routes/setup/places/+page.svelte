<script lang="ts">
  import NewPlace from '$lib/ui/catalogue/place/NewPlace.svelte';
  import ListPages from '$lib/ui/parts/ListPages.svelte';
  import NarrowField from '$lib/ui/parts/NarrowField.svelte';
  import { count } from '$lib/ui/parts/say.ts';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  let adding = $state(false);
</script>

<svelte:head><title>Places · Setup · Earmark</title></svelte:head>
<div class="setup">
  <div class="head">
    <h1>Places</h1>
    <NarrowField
      q={data.q}
      placeholder="Only code, name or site …"
      label="Only places that hold this text"
      path="/setup/places"
    />{#if data.mayEdit}<button class="act main" onclick={() => (adding = true)}>New place</button
      >{/if}
  </div>
  <WideTable of="places">
    <table class="plain middle">
      <thead
        ><tr
          ><th scope="col">Site</th><th scope="col">Code</th><th scope="col">Name</th><th
            scope="col">Kind</th
          ><th scope="col" class="right">On hand there</th></tr
        ></thead
      >
      <tbody data-list>
        {#each data.rows as place (place.code)}
          <tr
            ><td>{place.siteName}</td><td class="number"
              ><a href="/setup/places/{encodeURIComponent(place.code)}"><b>{place.code}</b></a></td
            ><td>{place.name}</td><td>{place.kind}</td><td class="right"
              ><a href="/on-hand?q={encodeURIComponent(place.code)}">{count(place.marks, 'mark')}</a
              ></td
            ></tr
          >
        {:else}<tr
            ><td colspan="5" class="soft"
              >{data.q
                ? 'No place holds that text.'
                : 'No place is set up yet. Goods are received into a place: a dock, a rack, a bin.'}</td
            ></tr
          >{/each}
      </tbody>
    </table>
  </WideTable>
  <ListPages page={data} of="places" path="/setup/places" />
</div>
{#if adding}<NewPlace site={data.sites[0]?.code ?? ''} onclose={() => (adding = false)} />{/if}
