<script lang="ts">
  import 'carbon-components-svelte/css/all.css';
  import '@fontsource/ibm-plex-sans/400.css';
  import '@fontsource/ibm-plex-sans/600.css';
  import '@fontsource/ibm-plex-mono/400.css';
  import '@fontsource/ibm-plex-mono/600.css';
  import '$lib/ui/frame/theme.css';
  import Frame from '$lib/ui/frame/Frame.svelte';

  import { onMount } from 'svelte';

  let { data, children } = $props();
  // Says that keys and fields are alive now; a page arrives a moment before its script.
  onMount(() => {
    document.documentElement.dataset.live = '';
  });
</script>

{#if data.actor}<Frame who={data.actor}>{@render children()}</Frame>{:else}{@render children()}{/if}
