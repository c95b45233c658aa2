<!-- The serials in a unit and those that came out, each with its maker’s warranty and its claim. -->
<script lang="ts">
  import type { PartWarranty } from '../../core/service/part-warranty.ts';
  import { sayWarranty } from './say-warranty.ts';

  interface Part extends PartWarranty {
    product: string;
    serial: string;
  }
  interface Props {
    inside: readonly Part[];
    out: readonly Part[];
    number: string;
    mark: number | null;
    /** Whether the unit is in our hands. */
    here: boolean;
    mayServe: boolean;
    onclaim: (part: object) => Promise<boolean>;
  }
  let { inside, out, number, mark, here, mayServe, onclaim }: Props = $props();
  let claiming = $state<number | null>(null);
  let reason = $state('');
  let goodwill = $state(false);
  const job = $derived(encodeURIComponent(number));

  async function claim(one: Part): Promise<void> {
    const kept = await onclaim({
      product: one.product,
      serial: one.serial,
      supplier: one.supplier!.partner,
      reason: reason.trim(),
      ...(goodwill ? { goodwill } : {})
    });
    if (kept) claiming = null;
  }
</script>

{#snippet row(one: Part, cameOut: boolean)}
  <tr
    ><td
      ><a class="number" href="/marks/{one.mark}">{one.serial}</a>
      <span class="soft">{one.product}</span></td
    ><td
      >{#if one.supplier}{one.supplier.name}, {sayWarranty(one.supplier)}{:else}<span class="soft"
          >no supplier known</span
        >{/if}</td
    ><td class="right"
      >{#if one.claim}<a href="/service/claims">{one.claim.number}</a>
        {one.claim.outcome ?? ''}{:else if cameOut && one.supplier && mayServe}<button
          class="act quiet"
          onclick={() => {
            claiming = claiming === one.mark ? null : one.mark;
            goodwill = false;
          }}>Claim it …</button
        >{/if}{#if cameOut && here && mayServe && !one.supplier}<a
          class="act quiet"
          href="/fit/{one.mark}?job={job}">Swap in it</a
        >{/if}</td
    ></tr
  >
  {#if claiming === one.mark}<tr
      ><td colspan="3"
        ><form
          onsubmit={(event) => {
            event.preventDefault();
            if (reason.trim()) void claim(one);
          }}
        >
          <label class="stack wide"
            >why {one.serial} is claimed<input
              class="field"
              maxlength="2000"
              bind:value={reason}
            /></label
          >
          {#if one.supplier?.state !== 'running'}<label class="tick"
              ><input type="checkbox" bind:checked={goodwill} /> as goodwill: their warranty is over</label
            >{/if}
          <button class="act main" disabled={reason.trim() === ''}>Claim it</button>
        </form></td
      ></tr
    >{/if}
{/snippet}

<div class="top">
  <h2>Its parts</h2>
  {#if mark !== null && here && mayServe}<a class="act" href="/fit/{mark}?job={job}">Swap parts</a
    >{/if}
</div>
{#if inside.length + out.length === 0}<p class="soft">No serial is known to be in it.</p>{:else}
  <table class="plain middle">
    <tbody>
      {#each inside as one (one.mark)}{@render row(one, false)}{/each}
      {#if out.length > 0}<tr><th colspan="3" scope="rowgroup">Came out of it</th></tr>{/if}
      {#each out as one (one.mark)}{@render row(one, true)}{/each}
    </tbody>
  </table>
{/if}

<style>
  .top {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 12px;
  }
  form {
    display: flex;
    gap: 12px;
    align-items: end;
    flex-wrap: wrap;
  }
  .wide {
    flex: 1;
    min-width: 200px;
  }
  .wide .field {
    width: 100%;
  }
  .tick {
    display: flex;
    gap: 8px;
    align-items: center;
  }
  td:first-child {
    white-space: nowrap;
  }
</style>
