<!-- Prints or saves what a screen lists, as it is shown, with the pages that follow where there are any. -->
<script lang="ts">
  import { untrack } from 'svelte';
  import { Modal } from 'carbon-components-svelte';
  import { page } from '$app/state';
  import { atMost, type ShownList } from '../../../core/tables/shown-list.ts';
  import { count, sayQuantity } from '../../parts/say.ts';
  import { nextOf, withFollowing } from './following-pages.ts';
  import { keepFile, showPaper } from './hand-out.ts';
  import { listsOf, mainOf } from './read-lists.ts';

  let { onclose }: { onclose: () => void } = $props();
  const screen = document.getElementById('sheet')!;
  const lists = listsOf(screen);
  const next = nextOf(screen);
  const largest = Math.max(0, ...lists.map((list) => list.rows.length));
  let at = $state(untrack(() => mainOf(lists)));
  let all = $state(true);
  let busy = $state('');
  let refused = $state('');
  const list = $derived<ShownList | undefined>(lists[at]);
  /** The longest list is the one that comes in pages. */
  const goesOn = $derived(next !== null && list?.rows.length === largest);

  async function hand(format: 'pdf' | 'xlsx' | 'csv'): Promise<void> {
    if (!list || busy) return;
    busy = 'Making it …';
    refused = '';
    try {
      const whole =
        goesOn && all
          ? await withFollowing(
              list,
              next,
              (rows) => (busy = `${sayQuantity(String(rows))} rows …`)
            )
          : atMost(list);
      const asked = { ...whole, screen: screenName() };
      refused = await (format === 'pdf' ? showPaper(asked) : keepFile(asked, format));
      if (refused === '') onclose();
    } catch {
      refused = 'Earmark cannot be reached. Check the network and try again.';
    } finally {
      busy = '';
    }
  }

  /** What the screen is called, and what it is narrowed to. */
  function screenName(): string {
    const narrowed = [...page.url.searchParams]
      .filter(([name, value]) => value !== '' && !['after', 'before'].includes(name))
      .map(([name, value]) => `${name} ${value}`);
    return [document.title.replace(/ · Earmark$/, ''), ...narrowed].join(' · ').slice(0, 400);
  }
</script>

<Modal open passiveModal modalLabel="Print or save what is listed" size="sm" on:close={onclose}>
  {#if lists.length === 0}<p>Nothing is listed on this screen.</p>
  {:else}
    <div class="asked">
      {#if lists.length > 1}<fieldset>
          <legend>Which list</legend>
          {#each lists as one, index (index)}<label
              ><input type="radio" name="list" value={index} bind:group={at} />
              <span>{one.title || 'Without a heading'}</span>
              <span class="small soft">{count(one.rows.length, 'row')}</span></label
            >{/each}
        </fieldset>
      {:else}<p>
          <b>{list?.title}</b>, {count(list?.rows.length ?? 0, 'row')}
        </p>{/if}
      {#if list?.note}<p class="small soft">{list.note}</p>{/if}
      {#if goesOn}<label
          ><input type="checkbox" bind:checked={all} /> with the pages that follow</label
        >{/if}
      {#if refused}<p class="refused" role="alert">{refused}</p>{/if}
      <div class="acts">
        <button class="act main" disabled={busy !== ''} onclick={() => hand('pdf')}>Print</button>
        <button class="act" disabled={busy !== ''} onclick={() => hand('xlsx')}>Workbook</button>
        <button class="act" disabled={busy !== ''} onclick={() => hand('csv')}>CSV</button>
        <span class="small soft" aria-live="polite">{busy}</span>
      </div>
    </div>
  {/if}
</Modal>

<style>
  .asked {
    display: grid;
    gap: 14px;
  }
  fieldset {
    border: 0;
    padding: 0;
    margin: 0;
    display: grid;
    gap: 4px;
    max-height: 320px;
    overflow-y: auto;
  }
  label {
    display: flex;
    gap: 10px;
    align-items: baseline;
    min-height: 32px;
  }
  .acts {
    display: flex;
    gap: 10px;
    align-items: center;
    flex-wrap: wrap;
  }
</style>
