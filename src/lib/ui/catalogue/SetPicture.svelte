<!-- Sets what a product looks like: chosen from a file, or taken off. -->
<script lang="ts">
  import { messagesOf, send } from '../frame/api.ts';
  import ProductPicture from './ProductPicture.svelte';

  let { product }: { product: string } = $props();
  let version = $state(0);
  let refused = $state.raw<string[]>([]);
  let said = $state('');
  const path = $derived(`/api/v1/products/${encodeURIComponent(product)}/picture`);

  async function set(file: File | null): Promise<void> {
    said = '';
    const reply = file ? await send('PUT', path, file) : await send('DELETE', path);
    refused = reply.ok ? [] : messagesOf(reply.refusal);
    if (!reply.ok) return;
    version++;
    said = file ? '✓ This is what the bench, the picker and the papers show.' : '✓ Taken off.';
  }
</script>

<section aria-label="Picture">
  <h2>Picture</h2>
  <ProductPicture {product} {version} size={160} />
  <p class="acts">
    <label class="act"
      >Choose a picture<input
        type="file"
        accept="image/png,image/jpeg"
        onchange={(event) => {
          const [file] = event.currentTarget.files ?? [];
          event.currentTarget.value = '';
          if (file) void set(file);
        }}
      /></label
    >
    <button type="button" class="act quiet" onclick={() => set(null)}>Take it off</button>
    <span class="soft small">PNG or JPEG, at most 1 MB</span>
  </p>
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  {#if said}<p class="good" role="status">{said}</p>{/if}
</section>

<style>
  section {
    display: grid;
    gap: 8px;
    justify-items: start;
  }
  h2 {
    font-size: 15px;
    color: var(--ink);
  }
  .acts {
    display: flex;
    gap: 10px;
    align-items: center;
    flex-wrap: wrap;
  }
  label {
    position: relative;
    cursor: pointer;
  }
  label:focus-within {
    outline: 2px solid var(--brass);
    outline-offset: 2px;
  }
  input {
    position: absolute;
    inset: 0;
    opacity: 0;
    cursor: pointer;
  }
</style>
