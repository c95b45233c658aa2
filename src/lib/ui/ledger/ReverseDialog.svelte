<!-- Takes a build, a repack or a teardown back: all of it, or only certain units. What stands in the way is said before it is booked. -->
<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { Modal, TextArea } from 'carbon-components-svelte';
  import { messagesOf, send } from '../frame/api.ts';
  import { latest } from '../frame/latest.ts';
  import { newKey } from '../frame/new-key.ts';
  import { count } from '../parts/say.ts';

  interface Made {
    mark: number;
    product: string;
    kind: 'lot' | 'serial' | 'bulk';
    number: string | null;
  }
  interface Props {
    event: { id: number; kind: string; document: string };
    made: readonly Made[];
    onclose: () => void;
    ondone: (id: number) => void;
  }
  let { event, made, onclose, ondone }: Props = $props();
  let picked = $state.raw(new Set(untrack(() => made.map((one) => one.mark))));
  let reason = $state('');
  let faults = $state.raw<string[]>([]);
  let busy = $state(false);
  const key = newKey();
  const all = $derived(picked.size === made.length);
  const request = (why: string) => ({
    document: event.document,
    event: event.id,
    reason: why,
    ...(all
      ? {}
      : {
          units: made
            .filter((one) => picked.has(one.mark))
            .map((one) => ({
              product: one.product,
              ...(one.kind === 'serial'
                ? { serial: one.number }
                : one.kind === 'lot'
                  ? { lot: one.number }
                  : {})
            }))
        })
  });

  const asking = latest();
  async function look(): Promise<void> {
    const isLatest = asking();
    if (picked.size === 0) {
      faults = [];
      return;
    }
    const reply = await send<{ faults: { message: string }[] }>(
      'POST',
      '/api/v1/checks/reversals',
      request(reason || 'looking')
    );
    if (!isLatest()) return;
    faults = reply.ok ? reply.body.faults.map((fault) => fault.message) : messagesOf(reply.refusal);
  }
  async function book(): Promise<void> {
    busy = true;
    const reply = await send<{ event: { id: number } }>(
      'POST',
      '/api/v1/reversals',
      request(reason),
      { 'idempotency-key': key }
    );
    busy = false;
    if (reply.ok) ondone(reply.body.event.id);
    else faults = messagesOf(reply.refusal);
  }
  const toggle = (mark: number): void => {
    const next = new Set(picked);
    if (!next.delete(mark)) next.add(mark);
    picked = next;
    void look();
  };
  onMount(() => void look());
</script>

<Modal
  open
  danger
  size="sm"
  modalLabel="Take {event.kind} {event.document} back"
  primaryButtonText={all ? 'Take all of it back' : `Take ${count(picked.size, 'unit')} back`}
  secondaryButtonText="Leave it"
  primaryButtonDisabled={busy || reason.trim() === '' || picked.size === 0 || faults.length > 0}
  on:submit={book}
  on:click:button--secondary={onclose}
  on:close={onclose}
>
  <p class="small soft">
    What was made leaves stock, what went in lies again where it was taken from. Both bookings stay
    in the ledger.
  </p>
  {#each faults.slice(0, 6) as message, index (index)}<p class="refused" role="alert">
      {message}
    </p>{/each}
  {#if made.length > 1}<ul>
      {#each made.slice(0, 300) as one (one.mark)}<li>
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
