<script lang="ts">
  import ComeBack from '$lib/ui/frame/ComeBack.svelte';

  let { data } = $props();
</script>

<svelte:head><title>Locked · Earmark</title></svelte:head>
<ComeBack name={data.name} onback={() => location.assign(data.to)} />
