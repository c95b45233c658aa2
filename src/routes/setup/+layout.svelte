<script lang="ts">
  import SetupNav from '$lib/ui/forms/SetupNav.svelte';
  let { data, children } = $props();
</script>

<SetupNav people={data.mayPeople} />
{@render children()}
