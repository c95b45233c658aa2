<!-- Photographs of a unit as it came in. -->
<script lang="ts">
  import { refresh } from '../frame/refresh.ts';
  import { sayInstant } from '../parts/say.ts';

  interface Props {
    photos: readonly { id: number; at: string; by: string }[];
    /** The job’s address in the interface. */
    address: string;
    mayAdd: boolean;
  }
  let { photos, address, mayAdd }: Props = $props();
  let refused = $state('');
  let busy = $state(false);

  async function add(files: FileList | null): Promise<void> {
    refused = '';
    busy = true;
    for (const file of files ?? []) {
      const reply = await fetch(`${address}/photos`, { method: 'POST', body: file }).catch(
        () => null
      );
      if (reply?.ok) continue;
      const told = (await reply?.json().catch(() => null)) as {
        errors?: { message: string }[];
      } | null;
      refused = `${file.name}: ${told?.errors?.[0]?.message ?? 'Earmark does not answer. Try it again.'}`;
    }
    busy = false;
    await refresh();
  }
</script>

{#if photos.length > 0 || mayAdd}
  <h2>Photographs</h2>
  {#if refused}<p class="refused" role="alert">{refused}</p>{/if}
  <div class="photos">
    {#each photos as photo (photo.id)}<a
        href="{address}/photos/{photo.id}"
        target="_blank"
        rel="noopener"
        ><img
          src="{address}/photos/{photo.id}"
          alt="As {photo.by} saw it, {sayInstant(photo.at)}"
          loading="lazy"
        /></a
      >{/each}
    {#if mayAdd}<label class="act"
        >{busy ? 'Keeping …' : 'Add a photograph'}<input
          class="visually-hidden"
          type="file"
          accept="image/png,image/jpeg"
          multiple
          disabled={busy}
          onchange={(event) => {
            void add(event.currentTarget.files);
            event.currentTarget.value = '';
          }}
        /></label
      >{/if}
  </div>
{/if}

<style>
  .photos {
    display: flex;
    gap: 10px;
    flex-wrap: wrap;
    align-items: center;
  }
  img {
    width: 120px;
    height: 90px;
    object-fit: cover;
    border: 1px solid var(--line);
    display: block;
  }
  label:focus-within {
    outline: 2px solid var(--brass);
    outline-offset: 2px;
  }
</style>
