<!-- What was off, for the second person: to be counted again, or approved and booked. -->
<script lang="ts">
  import { refresh } from '../frame/refresh.ts';
  import type { CountLine } from '../../core/stock/count-line.ts';
  import { messagesOf, send } from '../frame/api.ts';
  import { newKey } from '../frame/new-key.ts';
  import Cut from '../parts/Cut.svelte';
  import { count, sayAmount } from '../parts/say.ts';
  import { costsAsked, costsTold } from './asked-costs.ts';
  import { sayOff, sayWhyMore } from './count-verdict.ts';
  import { countKey, type Countable } from './counting.svelte.ts';
  import WideTable from '../parts/WideTable.svelte';

  interface Props {
    head: { document: string; places: readonly { code: string; doneAt: string | null }[] };
    /** What was off: the first of it, and how many lines in all. */
    off: { rows: readonly CountLine[]; total: number };
    blind: boolean;
    onrecount: (lines: readonly Countable[]) => Promise<void>;
  }
  let { head, off, blind, onrecount }: Props = $props();
  let reason = $state('');
  let busy = $state(false);
  let refused = $state.raw<string[]>([]);
  let chosen = $state.raw<ReadonlySet<string>>(new Set());
  let shown = $state(false);
  let key = newKey();
  const open = $derived(head.places.filter((place) => !place.doneAt).length);
  const MOST = 200;
  /** Lines whose cost was asked for: they come first, each with room for it. */
  let asked = $state.raw<ReadonlySet<string>>(new Set());
  let costs = $state<Record<string, string>>({});
  const isAsked = (line: CountLine) => asked.has(countKey(line));
  const lines = $derived(
    [...off.rows.filter(isAsked), ...off.rows.filter((line) => !isAsked(line))].slice(0, MOST)
  );

  function choose(line: CountLine, on: boolean): void {
    const next = new Set(chosen);
    if (on) next.add(countKey(line));
    else next.delete(countKey(line));
    chosen = next;
  }
  async function recount(): Promise<void> {
    await onrecount(
      lines
        .filter((line) => chosen.has(countKey(line)))
        .map(({ product, place, lot, serial }) => ({ product, place, lot, serial }))
    );
    chosen = new Set();
  }
  async function approve(): Promise<void> {
    if (busy || reason.trim() === '') return;
    busy = true;
    const reply = await send(
      'POST',
      `/api/v1/counts/${encodeURIComponent(head.document)}/approval`,
      { reason: reason.trim(), unitCosts: costsTold(off.rows, costs) },
      { 'idempotency-key': key }
    );
    busy = false;
    if (!reply.ok) {
      refused = messagesOf(reply.refusal);
      asked = new Set([...asked, ...costsAsked(off.rows, reply.refusal.errors)]);
      key = newKey();
      return;
    }
    await refresh();
  }
  async function cancel(): Promise<void> {
    if (!confirm(`End ${head.document} without booking anything?`)) return;
    const reply = await send('DELETE', `/api/v1/counts/${encodeURIComponent(head.document)}`);
    if (reply.ok) await refresh();
    else refused = messagesOf(reply.refusal);
  }
</script>

<section class="approve" aria-labelledby="approve">
  <h2 id="approve">Approve</h2>
  <p class="soft">
    By somebody who did not count: what is off is booked at once as gains and losses.
    {open > 0 ? `${count(open, 'place')} not said to be all counted yet.` : ''}
  </p>
  {#if blind && !shown}
    <button class="act" onclick={() => (shown = true)}
      >Show what is off ({off.total}); then you do not count yourself</button
    >
  {:else if off.total > 0}
    <WideTable of="lines that are off">
      <table class="plain">
        <thead
          ><tr
            ><th scope="col"><span class="visually-hidden">Again</span></th><th scope="col"
              >Place</th
            ><th scope="col">Lot or serial</th><th scope="col" class="right">By the ledger</th><th
              scope="col"
              class="right">Counted</th
            ><th scope="col" class="right">Off by</th><th scope="col">By</th>{#if asked.size > 0}<th
                scope="col"
                class="right">Cost of one</th
              >{/if}</tr
          ></thead
        >
        <tbody
          >{#each lines as line (countKey(line))}<tr>
              <td class="tick"
                ><input
                  type="checkbox"
                  aria-label="Count {line.serial ?? line.lot ?? line.product} again"
                  checked={chosen.has(countKey(line))}
                  onchange={(event) => choose(line, event.currentTarget.checked)}
                /></td
              >
              <td class="number">{line.place}</td>
              <td
                ><b class="number">{line.serial ?? line.lot ?? line.product}</b>
                <span class="soft small">{line.product} {line.name}</span>
                <span class="small stop">{sayWhyMore(line)}</span></td
              >
              <td class="right number">{sayAmount(line.seen ?? '0', line.unit)}</td>
              <td class="right number">{sayAmount(line.counted ?? '0', line.unit)}</td>
              <td class="right"
                ><b class="number stop">{sayOff(line)}</b>
                <span class="soft small">{line.unit}</span></td
              >
              <td class="small">{line.by}</td>
              {#if asked.size > 0}<td class="right"
                  >{#if isAsked(line)}<input
                      class="field number cost"
                      inputmode="decimal"
                      bind:value={costs[countKey(line)]}
                      aria-label="What one of {line.serial ?? line.lot ?? line.product} costs"
                    />{/if}</td
                >{/if}
            </tr>{/each}</tbody
        >
      </table>
    </WideTable>
    <Cut
      shown={lines.length}
      total={off.total}
      of="lines that are off"
      rest="all of them are booked"
    />
  {:else}
    <p class="good">Nothing is off.</p>
  {/if}
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  <form
    onsubmit={(event) => {
      event.preventDefault();
      void approve();
    }}
  >
    <label class="stack reason"
      >reason<input class="field" bind:value={reason} maxlength="2000" /></label
    >
    {#if chosen.size > 0}<button class="act" type="button" onclick={recount}
        >Count {count(chosen.size, 'line')} again</button
      >{/if}
    <button class="act main" disabled={busy || reason.trim() === ''}
      >{busy ? 'Booking …' : `Approve and book ${count(off.total, 'difference')}`}</button
    >
    <button class="act quiet" type="button" onclick={cancel}>End without booking</button>
  </form>
</section>

<style>
  section {
    scroll-margin-top: 60px;
  }
  .approve {
    display: grid;
    gap: 10px;
    border-top: 2px solid var(--line);
    padding-top: 14px;
  }
  form {
    display: flex;
    gap: 12px;
    align-items: end;
    flex-wrap: wrap;
  }
  .reason {
    flex: 1;
    min-width: 220px;
  }
  .reason input {
    width: 100%;
  }
  .cost {
    width: 110px;
    text-align: right;
  }
  .tick {
    width: 40px;
  }
  .tick input {
    width: 24px;
    height: 24px;
    accent-color: var(--brass);
  }
</style>
