<script lang="ts">
  import SetupNav from '$lib/ui/catalogue/SetupNav.svelte';
  let { data, children } = $props();
</script>

<SetupNav people={data.mayPeople} security={data.maySecurity} />
{@render children()}
