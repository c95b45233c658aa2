<!-- What a store keeper does. -->
<script lang="ts">
  import SubNav from '../parts/SubNav.svelte';
  const ITEMS = [
    ['/on-hand', 'On hand'],
    ['/move', 'Move'],
    ['/put-away', 'Put away'],
    ['/transfer', 'Transfers'],
    ['/count', 'Counts'],
    ['/opening', 'Opening stock']
  ] as const;
</script>

<SubNav label="Store" items={ITEMS} />
