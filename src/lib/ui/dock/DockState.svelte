<!-- Whether there is a line, and what of this device's work is not on the server yet. -->
<script lang="ts">
  import { onMount } from 'svelte';
  import { onLine, send } from '../frame/api.ts';
  import Messages from '../parts/Messages.svelte';
  import { sayTime } from '../parts/say.ts';
  import { forgetOthers } from './forget-here.ts';
  import { waiting } from './waiting.svelte.ts';

  let { login }: { login: string } = $props();
  const LOOK_MS = 4_000;
  /** Reasons shown of each that was refused. */
  const SHOWN = 3;
  let isOpen = $state(false);
  const refused = $derived(waiting.mine.filter((one) => one.refused));
  const others = $derived(waiting.list.length - waiting.mine.length);
  const says = $derived(
    [
      waiting.isLost ? 'No line' : '',
      refused.length > 0 ? `${refused.length} not booked` : '',
      waiting.mine.length > refused.length ? `${waiting.mine.length - refused.length} waiting` : '',
      others > 0 ? `${others} of others` : ''
    ]
      .filter(Boolean)
      .join(' · ')
  );

  /** For a phone: there is no line, and how many are not booked. */
  const short = $derived(
    [waiting.isLost ? 'No line' : '', waiting.list.length || ''].filter(Boolean).join(' · ')
  );

  onLine((there) => {
    waiting.isLost = !there;
  });
  onMount(() => {
    const lost = () => (waiting.isLost = true);
    window.addEventListener('offline', lost);
    void forgetOthers(login);
    const end = waiting.begin(login);
    return () => {
      end();
      window.removeEventListener('offline', lost);
    };
  });
  // Whether the line is back is asked, as nothing else may be sent for a while.
  $effect(() => {
    if (!waiting.isLost) return;
    const timer = setInterval(() => void send('GET', '/api/health'), LOOK_MS);
    return () => clearInterval(timer);
  });
</script>

<span class="visually-hidden" aria-live="polite"
  >{waiting.isLost ? 'No line: what you type is kept on this device.' : ''}</span
>
{#if says}
  <button
    class="state"
    class:bad={refused.length > 0}
    aria-expanded={isOpen}
    aria-label={says}
    onclick={() => (isOpen = !isOpen)}
    ><span class="long">{says}</span><span class="short">{short}</span></button
  >
  {#if isOpen}
    <section class="list" aria-label="Kept on this device">
      {#if waiting.isLost}<p>
          Earmark cannot be reached. What you type on a sheet of the dock is kept on this device,
          and can be left here to be booked when the line is back.
        </p>{/if}
      <ul>
        {#each waiting.list as one (one.key)}<li>
            {#if one.login === login}<a href={one.href} onclick={() => (isOpen = false)}
                ><b class="number">{one.document}</b></a
              >{:else}<b class="number">{one.document}</b>{/if}
            <span class="soft"
              >{one.login === login ? '' : `of ${one.login}, who signs in to send it · `}left here {sayTime(
                one.at
              )}</span
            >
            <Messages messages={one.refused ?? []} shown={SHOWN}>
              {#snippet say(message)}<p class="why">{message}</p>{/snippet}
            </Messages>
          </li>{/each}
      </ul>
    </section>
  {/if}
{/if}

<style>
  .state {
    border: 1px solid #f0b95b;
    border-radius: 2px;
    background: none;
    color: #f0b95b;
    font-size: 14px;
    padding: 5px 10px;
    cursor: pointer;
    white-space: nowrap;
  }
  .short {
    display: none;
  }
  @media (max-width: 700px) {
    .long {
      display: none;
    }
    .short {
      display: inline;
    }
  }
  .state.bad {
    background: var(--rust-pale);
    border-color: var(--rust-pale);
    color: var(--rust);
    font-weight: 600;
  }
  .list {
    position: fixed;
    top: 52px;
    right: 16px;
    width: min(420px, calc(100vw - 32px));
    max-height: 70vh;
    overflow: auto;
    padding: 14px 18px;
    background: var(--panel);
    color: var(--ink);
    border: 1px solid var(--line);
    font-size: 14px;
    white-space: normal;
    display: grid;
    gap: 10px;
  }
  ul {
    display: grid;
    gap: 10px;
  }
  .why {
    margin-top: 5px;
    color: var(--rust);
  }
</style>
