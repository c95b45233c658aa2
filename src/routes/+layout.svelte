<script lang="ts">
  import 'carbon-components-svelte/css/all.css';
  import '@fontsource/ibm-plex-sans/400.css';
  import '@fontsource/ibm-plex-sans/600.css';
  import '@fontsource/ibm-plex-mono/400.css';
  import '@fontsource/ibm-plex-mono/600.css';
  import '$lib/ui/theme.css';
  import Frame from '$lib/ui/frame/Frame.svelte';

  let { data, children } = $props();
</script>

{#if data.actor}<Frame who={data.actor}>{@render children()}</Frame>{:else}{@render children()}{/if}
