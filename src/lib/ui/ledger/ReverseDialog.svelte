<!-- Takes an event back: all of it, or what it did to certain marks. What stands in the way is said, with a way there, before it is booked. -->
<script lang="ts">
  import AndMore from '../parts/AndMore.svelte';
  import { onMount, untrack } from 'svelte';
  import { Modal, TextArea } from 'carbon-components-svelte';
  import { send, type Refusal } from '../frame/api.ts';
  import { latest } from '../frame/latest.ts';
  import { newKey } from '../frame/new-key.ts';
  import { count } from '../parts/say.ts';
  import {
    byEvent,
    MOST_PICKED,
    reversalOf,
    whatComesOf,
    type OpenMark
  } from './reversal-request.ts';

  interface Props {
    event: { id: number; kind: string; document: string; open: OpenMark[]; openCount: number };
    onclose: () => void;
    ondone: (id: number) => void;
  }
  type Said = { message: string; event?: number };
  let { event, onclose, ondone }: Props = $props();
  const many = $derived(event.openCount > MOST_PICKED);
  let whole = $state(true);
  let picked = $state.raw(new Set(untrack(() => event.open.map((one) => one.mark))));
  let reason = $state('');
  let faults = $state.raw<Said[]>([]);
  const inTheWay = $derived(byEvent(faults));
  let notes = $state.raw<Said[]>([]);
  let busy = $state(false);
  const key = newKey();
  const listed = $derived(event.open.slice(0, MOST_PICKED));
  const all = $derived(many ? whole : picked.size === event.open.length);
  const nothing = $derived(!all && picked.size === 0);
  const ask = (why: string) => reversalOf(event, all ? null : picked, why);

  const said = ({ errors, title }: Refusal): Said[] =>
    errors.length > 0 ? errors : [{ message: title }];
  const asking = latest();
  async function look(): Promise<void> {
    const isLatest = asking();
    if (nothing) {
      faults = [];
      return;
    }
    const reply = await send<{ faults: Said[]; notes: Said[] }>(
      'POST',
      '/api/v1/checks/reversals',
      ask(reason || 'looking')
    );
    if (!isLatest()) return;
    faults = reply.ok ? reply.body.faults : said(reply.refusal);
    notes = reply.ok ? reply.body.notes : [];
  }
  async function book(): Promise<void> {
    busy = true;
    const reply = await send<{ event: { id: number } }>('POST', '/api/v1/reversals', ask(reason), {
      'idempotency-key': key
    });
    busy = false;
    if (reply.ok) ondone(reply.body.event.id);
    else faults = said(reply.refusal);
  }
  const toggle = (mark: number): void => {
    const next = new Set(picked);
    if (!next.delete(mark)) next.add(mark);
    picked = next;
    void look();
  };
  function choose(everything: boolean): void {
    whole = everything;
    picked = new Set();
    void look();
  }
  onMount(() => void look());
</script>

<Modal
  open
  danger
  modalLabel="Take {event.kind} {event.document} back"
  primaryButtonText={all ? 'Take all of it back' : `Take ${count(picked.size, 'unit')} back`}
  secondaryButtonText="Leave it"
  primaryButtonDisabled={busy || reason.trim() === '' || nothing || faults.length > 0}
  on:submit={book}
  on:click:button--secondary={onclose}
  on:close={onclose}
>
  <p class="small soft">{whatComesOf(event.kind)} Both bookings stay in the ledger.</p>
  {#each inTheWay.slice(0, 3) as { first, more }, index (index)}<p class="refused" role="alert">
      {first.message}
      {#if more > 0}And {more} more by the same event.{/if}
      {#if first.event}<a href="/events/{first.event}">Open event {first.event}</a>{/if}
    </p>{/each}
  {#if inTheWay.length > 3}<p class="small soft">
      and {count(inTheWay.length - 3, 'more event')} in the way.
    </p>{/if}
  {#each notes.slice(0, 6) as note, index (index)}<p class="small">{note.message}</p>{/each}
  <AndMore shown={6} total={notes.length} />
  {#if many}<div class="which">
      <label
        ><input type="radio" name="which" checked={whole} onchange={() => choose(true)} /> All {event.openCount}</label
      >
      <label
        ><input type="radio" name="which" checked={!whole} onchange={() => choose(false)} /> Only
        some of the first {listed.length}</label
      >
    </div>{/if}
  {#if event.open.length > 1 && (!many || !whole)}<ul>
      {#each listed as one (one.mark)}<li>
          <label
            ><input
              type="checkbox"
              checked={picked.has(one.mark)}
              onchange={() => toggle(one.mark)}
            /> <span class="number">{one.number ?? one.product}</span>
            <span class="small soft">{one.product}</span></label
          >
        </li>{/each}
    </ul>{/if}
  <TextArea labelText="Reason, kept for ever" bind:value={reason} maxlength={2000} rows={2} />
</Modal>

<style>
  ul {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
    max-height: 200px;
    overflow: auto;
    margin: 10px 0;
  }
  .which {
    display: flex;
    gap: 20px;
    margin: 10px 0 0;
  }
  label {
    display: inline-flex;
    gap: 6px;
    align-items: center;
    min-height: 28px;
  }
  .refused {
    margin-top: 10px;
  }
</style>
