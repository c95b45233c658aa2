<!-- What may be done with a job now: turn it, note something, take the unit in, send it back. -->
<script lang="ts">
  import PlaceChoice from '../parts/PlaceChoice.svelte';
  import { untrack } from 'svelte';
  import { typedWhole } from '../parts/typed-whole.ts';
  import { OPEN_STATES, type JobState } from '../../core/service/job-state.ts';

  interface Props {
    job: {
      number: string;
      serial: string;
      state: JobState;
      place: string | null;
      customerName: string;
    };
    places: readonly { code: string; name: string }[];
    /** Whether whoever is here decides quality, so that what stays is free at once. */
    mayDecide: boolean;
    busy: boolean;
    /** Both answer whether it was kept. */
    onturn: (body: object) => Promise<boolean>;
    onpost: (path: string, body: object) => Promise<boolean>;
  }
  let { job, places, mayDecide, busy, onturn, onpost }: Props = $props();
  const waits = $derived(job.state === 'waiting for unit');
  const turns = $derived(OPEN_STATES.slice(1).filter((state) => state !== job.state));
  let note = $state('');
  let minutes = $state('');
  let place = $state(untrack(() => places[0]?.code ?? ''));
  let doing = $state<'' | 'back' | 'stock' | 'end'>('');
  let reference = $state('');
  let reason = $state('');
  let newSerial = $state('');
  let exchange = $state('');
  let exchangeProduct = $state('');

  async function keepNote(kind: 'finding' | 'act'): Promise<void> {
    const body = { kind, note: note.trim(), minutes: typedWhole(minutes) };
    if (await onpost('/notes', body)) {
      note = '';
      minutes = '';
    }
  }
  const sendBack = () =>
    onpost('/return', {
      ...(reference.trim() ? { reference: reference.trim() } : {}),
      ...(exchange.trim()
        ? { exchange: { product: exchangeProduct.trim(), serial: exchange.trim() } }
        : {})
    });
  const takeToStock = () =>
    onpost('/stock', {
      reason: reason.trim(),
      ...(newSerial.trim() ? { serial: newSerial.trim() } : {})
    });
  const turnTo = (what: typeof doing): void => {
    doing = doing === what ? '' : what;
  };
</script>

{#if waits}
  <form
    class="row"
    onsubmit={(event) => {
      event.preventDefault();
      void onpost('/arrival', { place });
    }}
  >
    <label class="stack">it is here, at<PlaceChoice {places} bind:value={place} /></label>
    <button class="act main" disabled={busy}>Take it in</button>
  </form>
{:else}
  <p class="soft">It is {job.state}. Next it is</p>
  <div class="row" role="group" aria-label="Turn the job">
    {#each turns as state (state)}<button
        class="act"
        disabled={busy}
        onclick={() => onturn({ state })}>{state}</button
      >{/each}
  </div>
{/if}
<form
  class="note"
  onsubmit={(event) => {
    event.preventDefault();
    if (note.trim()) void keepNote('finding');
  }}
>
  <label class="stack"
    >what was found, or done<textarea class="field" rows="2" maxlength="2000" bind:value={note}
    ></textarea></label
  >
  <div class="row">
    <label class="stack"
      >minutes<input class="field number short" inputmode="numeric" bind:value={minutes} /></label
    >
    <button class="act" disabled={note.trim() === '' || busy}>Keep as found</button>
    <button
      type="button"
      class="act"
      disabled={note.trim() === '' || busy}
      onclick={() => keepNote('act')}>Keep as done</button
    >
  </div>
</form>
<div class="row end">
  <button class="act quiet" onclick={() => turnTo('end')}>End it …</button>
  {#if !waits}<button class="act" onclick={() => turnTo('stock')}>Into our stock …</button>
    <button class="act main" onclick={() => turnTo('back')}>Send it back …</button>{/if}
</div>
{#if doing === 'back'}
  <form
    class="note"
    onsubmit={(event) => {
      event.preventDefault();
      void sendBack();
    }}
  >
    <p>To {job.customerName}, and the job ends.</p>
    <label class="stack"
      >carrier’s number, or their paper<input
        class="field"
        maxlength="100"
        bind:value={reference}
      /></label
    >
    <div class="row">
      <label class="stack"
        >another in its place: serial<input class="field number" bind:value={exchange} /></label
      >
      {#if exchange.trim()}<label class="stack"
          >its product<input class="field number short" bind:value={exchangeProduct} /></label
        >{/if}
    </div>
    <button class="act main" disabled={busy}
      >{exchange.trim() ? `Send ${exchange.trim()}` : 'Send it back'}</button
    >
  </form>
{:else if doing === 'stock'}
  <form
    class="note"
    onsubmit={(event) => {
      event.preventDefault();
      void takeToStock();
    }}
  >
    <p>
      It stays here, reconditioned, and the job ends. {mayDecide
        ? 'It is free at once, where only its coming in held it.'
        : 'It stays held until quality releases it.'}
    </p>
    <label class="stack"
      >why it stays (bought back, exchanged …)<input
        class="field"
        maxlength="2000"
        bind:value={reason}
      /></label
    >
    <label class="stack"
      >new number, where it gets one<input
        class="field number"
        maxlength="100"
        placeholder={job.serial}
        bind:value={newSerial}
      /></label
    >
    <button class="act main" disabled={reason.trim() === '' || busy}>Take it into our stock</button>
  </form>
{:else if doing === 'end'}
  <form
    class="note"
    onsubmit={(event) => {
      event.preventDefault();
      void onturn({ state: 'ended', note: reason });
    }}
  >
    <label class="stack"
      >why it ends without going back (kept, scrapped, bought back …)<input
        class="field"
        maxlength="2000"
        bind:value={reason}
      /></label
    >
    <button class="act danger" disabled={reason.trim() === '' || busy}>End {job.number}</button>
  </form>
{/if}

<style>
  .row {
    display: flex;
    gap: 10px;
    align-items: end;
    flex-wrap: wrap;
  }
  .note {
    display: grid;
    gap: 10px;
  }
  .note .field {
    width: 100%;
  }
  .note .short {
    width: 110px;
  }
  textarea {
    padding-top: 8px;
  }
  .end {
    justify-content: flex-end;
  }
</style>
