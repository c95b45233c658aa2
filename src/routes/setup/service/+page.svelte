<script lang="ts">
  import { untrack } from 'svelte';
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { JOB_STATES, type JobState } from '$lib/core/service/job-state.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import { askUnlessKept } from '$lib/ui/frame/ask-before-leaving.ts';

  let { data } = $props();
  let settings = $state(untrack(() => structuredClone(data.settings)));
  let code = $state('');
  let name = $state('');
  let refused = $state.raw<string[]>([]);
  let said = $state('');
  const unsaved = askUnlessKept(() => settings);
  const SHOWS = [
    ['made', 'the day it was made'],
    ['warranty', 'its warranty'],
    ['recall', 'whether it stands in an open recall']
  ] as const;

  const toggled = <T,>(list: readonly T[], one: T): T[] =>
    list.includes(one) ? list.filter((other) => other !== one) : [...list, one];
  async function put(path: string, body: object, says: string): Promise<boolean> {
    const reply = await send<object>('PUT', path, body);
    refused = reply.ok ? [] : messagesOf(reply.refusal);
    said = reply.ok ? says : '';
    return reply.ok;
  }
  async function keep(): Promise<void> {
    if (await put('/api/v1/service-settings', $state.snapshot(settings), 'Kept.')) unsaved.kept();
  }
  async function addFault(): Promise<void> {
    const path = `/api/v1/service-faults/${encodeURIComponent(code.trim())}`;
    if (!(await put(path, { name: name.trim() }, `${code.trim()} is in the list.`))) return;
    [code, name] = ['', ''];
    await refresh();
  }
</script>

<svelte:head><title>Service · Setup · Earmark</title></svelte:head>
<div class="setup">
  <h1>Service</h1>
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  {#if said}<p class="good" role="status">✓ {said}</p>{/if}
  <form
    onsubmit={(event) => {
      event.preventDefault();
      void keep();
    }}
  >
    <fieldset disabled={!data.mayEdit}>
      <legend>What anybody may see without signing in</legend>
      <label
        ><input type="checkbox" bind:checked={settings.tracking} /> a job’s state, by its tracking
        number (<span class="number">/track/…</span>)</label
      >
      <label
        ><input type="checkbox" bind:checked={settings.unitPages} /> a unit’s page, by the Digital
        Link on its label (<span class="number">/01/…/21/…</span>); it shows</label
      >
      {#each SHOWS as [one, says] (one)}<label class="in"
          ><input
            type="checkbox"
            disabled={!settings.unitPages}
            checked={settings.shows.includes(one)}
            onchange={() => (settings.shows = toggled(settings.shows, one))}
          />
          {says}</label
        >{/each}
      <label class="stack"
        >how to send it in, in our words<textarea
          class="field"
          rows="3"
          maxlength="2000"
          bind:value={settings.howToSend}></textarea></label
      >
    </fieldset>
    <fieldset disabled={!data.mayEdit}>
      <legend>Turns a customer is told of, where there is an address</legend>
      {#each JOB_STATES as state (state)}<label
          ><input
            type="checkbox"
            checked={settings.tells.includes(state)}
            onchange={() => (settings.tells = toggled<JobState>(settings.tells, state))}
          />
          {state}</label
        >{/each}
    </fieldset>
    {#if data.mayEdit}<button class="act main">Keep it</button>{/if}
  </form>
  <h2>Faults they are counted by</h2>
  <ul>
    {#each data.faults as fault (fault.code)}<li>
        <b class="number">{fault.code}</b>
        {fault.name}
      </li>{:else}<li class="soft">
        None yet: faults are told in the customer’s words alone.
      </li>{/each}
  </ul>
  {#if data.mayEdit}<form
      class="row"
      onsubmit={(event) => {
        event.preventDefault();
        void addFault();
      }}
    >
      <label class="stack"
        >code<input class="field number" bind:value={code} maxlength="60" required /></label
      >
      <label class="stack"
        >what is wrong<input class="field" bind:value={name} maxlength="200" required /></label
      >
      <button class="act">Add it, or change its words</button>
    </form>{/if}
</div>

<style>
  form:not(.row) {
    display: grid;
    gap: 16px;
    justify-items: start;
    max-width: 760px;
    margin: 12px 0 24px;
  }
  fieldset {
    border: 1px solid var(--line);
    padding: 12px 16px 16px;
    display: grid;
    gap: 9px;
    width: 100%;
  }
  legend {
    font-weight: 600;
    padding: 0 6px;
  }
  input[type='checkbox'] {
    width: 18px;
    height: 18px;
    accent-color: var(--brass);
    vertical-align: -3px;
  }
  .in {
    margin-left: 28px;
  }
  textarea {
    width: 100%;
    padding-top: 8px;
  }
  .row {
    display: flex;
    gap: 12px;
    align-items: end;
    flex-wrap: wrap;
    margin-top: 12px;
  }
</style>
