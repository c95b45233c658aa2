<script lang="ts">
  import DrawnTrace from '$lib/ui/trace/DrawnTrace.svelte';
  import LargeTrace from '$lib/ui/trace/LargeTrace.svelte';

  let { data } = $props();
</script>

{#if data.trace}<DrawnTrace data={{ ...data, trace: data.trace }} />{:else if data.large}<LargeTrace
    data={{ ...data, large: data.large }}
  />{/if}
