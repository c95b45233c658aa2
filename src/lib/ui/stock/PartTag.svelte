<!-- The number of a thing that is moved, with what it is. -->
<script lang="ts">
  import type { Lying } from '../../core/stock/lying.ts';
  import Tag from './Tag.svelte';

  interface Props {
    row: Lying;
  }
  let { row }: Props = $props();
  const within = $derived(row.kind === 'serial' && row.lot ? ` · lot ${row.lot}` : '');
</script>

<Tag
  kind={row.kind}
  number={row.number}
  under="{row.product} {row.name}{within}"
  state={row.state}
  href="/marks/{row.mark}"
/>
