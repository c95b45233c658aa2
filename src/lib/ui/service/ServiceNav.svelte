<!-- What a service clerk does. -->
<script lang="ts">
  import SubNav from '../parts/SubNav.svelte';
  const ITEMS = [
    ['/service', 'Jobs'],
    ['/service/claims', 'Claims on suppliers'],
    ['/service/figures', 'Figures']
  ] as const;
</script>

<SubNav label="Service" items={ITEMS} />
