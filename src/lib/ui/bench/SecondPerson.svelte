<!-- What goes on only when a second person approves it: they read it here, and give their password. -->
<script lang="ts">
  import { messagesOf } from '../frame/api.ts';
  import { count, sayTime } from '../parts/say.ts';
  import { askApproval, waitForSecond, type Approval } from './approvals.ts';
  import type { Fault } from './booking-sheet.svelte.ts';

  interface Props {
    document: string;
    faults: readonly Fault[];
    approvals: readonly Approval[];
    onapproved: (approval: Approval) => void;
  }
  let { document, faults, approvals, onapproved }: Props = $props();
  let login = $state('');
  let password = $state('');
  let reason = $state('');
  let busy = $state(false);
  let refused = $state.raw<string[]>([]);

  const SHOWN = 3;
  const waiting = $derived(waitForSecond(faults));
  const ready = $derived(Boolean(login.trim() && password && reason.trim()) && !busy);
  /** The fault's own sentence; that a second person may approve it stands beside it here. */
  const said = (fault: Fault) => fault.message.replace(' Or have a second person approve it.', '');

  async function approveIt(): Promise<void> {
    if (!ready) return;
    busy = true;
    const person = { login: login.trim(), password, reason: reason.trim() };
    const reply = await askApproval(document, faults, person);
    busy = false;
    password = '';
    if (!reply.ok) {
      refused = messagesOf(reply.refusal);
      return;
    }
    refused = [];
    login = reason = '';
    onapproved(reply.given);
  }
  function onEnter(event: KeyboardEvent): void {
    if (event.key !== 'Enter') return;
    event.preventDefault();
    void approveIt();
  }
</script>

{#each approvals as given (given.approval)}
  <p class="given" role="status">
    ✓ Approved by <b>{given.by}</b>; it waits for the booking until {sayTime(given.until)}.
  </p>
{/each}
{#if waiting.length > 0}
  <div class="second" role="group" aria-label="A second person approves">
    <p>
      <b>{count(waiting.length, 'row')} only with a second person.</b> They read this, and approve it
      with their own password:
    </p>
    <ul>
      {#each waiting.slice(0, SHOWN) as fault, index (index)}<li>{said(fault)}</li>{/each}
      {#if waiting.length > SHOWN}<li>
          … and {waiting.length - SHOWN} more of the rows above.
        </li>{/if}
    </ul>
    {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
    <div class="who">
      <label
        >Their name to sign in<input
          class="field"
          bind:value={login}
          autocomplete="off"
          maxlength="200"
          onkeydown={onEnter}
        /></label
      >
      <label
        >Their password<input
          class="field"
          type="password"
          bind:value={password}
          autocomplete="off"
          maxlength="1000"
          onkeydown={onEnter}
        /></label
      >
      <label class="why"
        >Why it may go on, kept for ever<input
          class="field"
          bind:value={reason}
          maxlength="2000"
          onkeydown={onEnter}
        /></label
      >
      <button type="button" class="act" disabled={!ready} onclick={approveIt}
        >Approve {count(waiting.length, 'row')}</button
      >
    </div>
  </div>
{/if}

<style>
  .second {
    display: grid;
    gap: 8px;
  }
  ul {
    margin: 0;
    padding-left: 18px;
    list-style: disc;
    font-size: 14px;
  }
  .who {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) minmax(0, 2fr) auto;
    gap: 10px;
    align-items: end;
  }
  label {
    display: grid;
    gap: 4px;
    font-size: 13px;
  }
  .field {
    width: 100%;
    background: var(--panel);
  }
  .given {
    color: var(--sea);
    font-size: 14px;
  }
  @media (max-width: 700px) {
    .who {
      grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    }
    .why,
    .act {
      grid-column: 1 / -1;
    }
  }
</style>
