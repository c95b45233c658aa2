<script lang="ts">
  import DrawnTrace from './DrawnTrace.svelte';
  import LargeTrace from './LargeTrace.svelte';

  let { data } = $props();
</script>

{#if data.trace}<DrawnTrace data={{ ...data, trace: data.trace }} />{:else if data.large}<LargeTrace
    data={{ ...data, large: data.large }}
  />{/if}
