<script lang="ts">
  import PlacePage from '$lib/ui/catalogue/place/PlacePage.svelte';

  let { data } = $props();
  const { page, today, mayEdit } = $derived(data);
</script>

<svelte:head><title>{page.place.code} · Setup · Earmark</title></svelte:head>
<!-- Another place is another page: nothing that is typed of one stands on the next. -->
{#key page.place.code}<PlacePage {...page} {today} {mayEdit} />{/key}
