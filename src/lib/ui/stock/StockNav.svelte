<!-- What a store keeper does; what stock is worth, for whoever may see costs. -->
<script lang="ts">
  import { page } from '$app/state';
  import { mayDo } from '../../core/people/rights.ts';
  import SubNav from '../parts/SubNav.svelte';
  const ITEMS = [
    ['/on-hand', 'On hand'],
    ['/move', 'Move'],
    ['/put-away', 'Put away'],
    ['/transfer', 'Transfers'],
    ['/count', 'Counts'],
    ['/opening', 'Opening stock']
  ] as const;
  const VALUE = ['/value', 'Value'] as const;
  const seesCosts = $derived(mayDo(page.data.actor?.roles ?? [], 'see.costs'));
</script>

<SubNav label="Store" items={seesCosts ? [...ITEMS, VALUE] : ITEMS} />
