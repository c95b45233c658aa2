<!-- The unit a screen works on, with what is done there and what comes of it. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import Tag from '../stock/Tag.svelte';

  interface Props {
    mark: {
      id: number;
      kind: 'lot' | 'serial' | 'bulk';
      number: string | null;
      product: string;
      name: string;
      state: 'usable' | 'held' | 'rejected';
    };
    title: string;
    children: Snippet;
  }
  let { mark, title, children }: Props = $props();
</script>

<div class="head">
  <Tag
    kind={mark.kind}
    number={mark.number}
    under="{mark.product} {mark.name}"
    state={mark.state}
    large
    href="/marks/{mark.id}"
  />
  <div>
    <h1>{title}</h1>
    <p class="soft">{@render children()}</p>
  </div>
</div>

<style>
  .head {
    display: flex;
    flex-wrap: wrap;
    gap: 14px 22px;
    align-items: center;
  }
</style>
