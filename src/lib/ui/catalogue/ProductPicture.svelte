<!-- What a product looks like; nothing where nobody has set a picture. -->
<script lang="ts">
  import { onMount } from 'svelte';

  interface Props {
    product: string;
    /** Changes when another picture was set, so that it is fetched anew. */
    version?: number;
    /** Its longest side on the screen, in pixels. */
    size?: number;
  }
  let { product, version = 0, size = 120 }: Props = $props();
  const src = $derived(`/api/v1/products/${encodeURIComponent(product)}/picture?v=${version}`);
  let missing = $state<string | null>(null);
  // Drawn by the page’s script alone: the server’s would listen inline, which our policy forbids.
  let alive = $state(false);
  onMount(() => {
    alive = true;
  });
</script>

{#if alive && missing !== src}<img
    {src}
    alt="What {product} looks like"
    style:max-width="{size}px"
    style:max-height="{size}px"
    onerror={() => (missing = src)}
  />{/if}

<style>
  img {
    display: block;
    border: 1px solid var(--line);
    border-radius: 4px;
    background: var(--panel);
    object-fit: contain;
  }
</style>
