<!-- A working screen with no order open. -->
<script lang="ts">
  import type { ComponentProps } from 'svelte';
  import OrdersOf, { NONE } from './OrdersOf.svelte';
  import Working from '../parts/Working.svelte';

  let { kind, data }: Pick<ComponentProps<typeof OrdersOf>, 'kind' | 'data'> = $props();
</script>

<Working>
  {#snippet list()}<OrdersOf {kind} {data} />{/snippet}
  {#snippet sheet()}<p>{NONE[kind]}</p>{/snippet}
</Working>

<style>
  p {
    padding: 40px 28px;
    color: var(--ink-soft);
  }
</style>
