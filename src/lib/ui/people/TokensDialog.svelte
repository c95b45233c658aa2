<!-- API tokens of a person: made, told once, ended. -->
<script lang="ts">
  import { refresh } from '../frame/refresh.ts';
  import { Modal } from 'carbon-components-svelte';
  import type { TokenRecord } from '$lib/core/people/account.ts';
  import { sayDay } from '$lib/core/calendar/say-day.ts';
  import { send, type Refusal } from '../frame/api.ts';
  import OtherErrors from '../parts/OtherErrors.svelte';
  import { sayInstant } from '../parts/say.ts';

  let {
    person,
    onclose
  }: {
    /** Whose; none while the dialog is closed. */
    person: { login: string; name: string; roles: string[]; tokens: TokenRecord[] } | undefined;
    onclose: () => void;
  } = $props();
  let name = $state('');
  let days = $state('365');
  let secret = $state('');
  let refusal = $state.raw<Refusal | null>(null);
  let role = $derived(person?.roles[0] ?? '');
  const path = $derived(`/api/v1/people/${encodeURIComponent(person?.login ?? '')}/tokens`);

  async function make(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    const asked = { name, roles: [role], days: Number(days) };
    const reply = await send<{ secret: string }>('POST', path, asked);
    refusal = reply.ok ? null : reply.refusal;
    if (!reply.ok) return;
    secret = reply.body.secret;
    name = '';
    await refresh();
  }
  async function revoke(id: number): Promise<void> {
    await send('DELETE', `${path}?id=${id}`);
    await refresh();
  }
  function close(): void {
    secret = '';
    refusal = null;
    onclose();
  }
</script>

<Modal
  open={person !== undefined}
  passiveModal
  size="sm"
  modalLabel="API tokens of {person?.name ?? ''}"
  on:close={close}
>
  <OtherErrors {refusal} />
  {#if secret}<p class="mind secret">
      The token, told only now: <b class="number">{secret}</b>
    </p>{/if}
  <ul>
    {#each person?.tokens ?? [] as token (token.id)}<li>
        <span
          ><b>{token.name}</b>
          <span class="small soft"
            >{token.roles.join(', ')} · since {sayDay(token.created.slice(0, 10))}{token.madeBy
              ? `, made by ${token.madeBy}`
              : ''}{token.until ? `, until ${sayDay(token.until.slice(0, 10))}` : ''} · {token.lastUsed
              ? `last used ${sayInstant(token.lastUsed)}`
              : 'never used'}</span
          ></span
        >{#if token.revoked}<span class="soft small">revoked</span>{:else}<button
            class="act danger"
            onclick={() => revoke(token.id)}>Revoke</button
          >{/if}
      </li>{:else}<li class="soft">
        None yet. A token lets a script or another system book under this name.
      </li>{/each}
  </ul>
  <form onsubmit={make}>
    <label class="stack"
      >For what<input class="field" bind:value={name} required maxlength="100" /></label
    >
    <label class="stack"
      >Role<select class="field" bind:value={role}
        >{#each person?.roles ?? [] as one (one)}<option>{one}</option>{/each}</select
      ></label
    >
    <label class="stack"
      >Good for<select class="field" bind:value={days}
        ><option value="30">30 days</option><option value="90">90 days</option><option value="365"
          >a year</option
        ><option value="730">two years</option></select
      ></label
    >
    <button class="act main">Make a token</button>
  </form>
</Modal>

<style>
  .secret {
    overflow-wrap: anywhere;
  }
  li {
    display: flex;
    justify-content: space-between;
    align-items: center;
    padding: 6px 0;
    border-bottom: 1px solid var(--line);
  }
  form {
    display: flex;
    flex-wrap: wrap;
    gap: 12px;
    align-items: end;
    margin-top: 14px;
  }
</style>
