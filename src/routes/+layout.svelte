<script lang="ts">
  import 'carbon-components-svelte/css/all.css';
  import '@fontsource/ibm-plex-sans/400.css';
  import '@fontsource/ibm-plex-sans/600.css';
  import '@fontsource/ibm-plex-mono/400.css';
  import '@fontsource/ibm-plex-mono/600.css';
  import '$lib/ui/frame/theme.css';
  import Frame from '$lib/ui/frame/Frame.svelte';

  import { onMount } from 'svelte';
  import { page } from '$app/state';

  let { data, children } = $props();
  // What a page holds belongs to one order, mark or case: another is another page, also when
  // somebody goes back.
  const thing = $derived(Object.values(page.params).join('/'));
  // Says that keys and fields are alive now; a page arrives a moment before its script.
  onMount(() => {
    document.documentElement.dataset.live = '';
  });
</script>

{#snippet shown()}{#key thing}{@render children()}{/key}{/snippet}
{#if data.actor && !page.data.withoutFrame}<Frame who={data.actor} lockMinutes={data.lockMinutes}
    >{@render shown()}</Frame
  >{:else}{@render shown()}{/if}
