<script lang="ts">
  import PersonPage from '$lib/ui/people/PersonPage.svelte';

  let { data } = $props();
  const { person, tag, own, allRoles, log } = $derived(data);
</script>

<svelte:head><title>{person.name} · Setup · Earmark</title></svelte:head>
<!-- Another person is another page: nothing that is typed of one stands on the next. -->
{#key person.login}<PersonPage {person} {tag} {own} {allRoles} {log} />{/key}
