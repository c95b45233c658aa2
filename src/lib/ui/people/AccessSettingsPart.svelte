<!-- How people come in: of whom a second factor is demanded, and when a device left alone locks. -->
<script lang="ts">
  import { page } from '$app/state';
  import { refresh } from '../frame/refresh.ts';
  import type { Role } from '$lib/core/people/rights.ts';
  import { messagesOf, send } from '../frame/api.ts';
  import { typedWhole } from '../parts/typed-whole.ts';

  let {
    settings,
    allRoles,
    administrators
  }: {
    settings: { factorRoles: readonly Role[]; lockMinutes: number; onlyLocal: string | null };
    allRoles: readonly Role[];
    /** Sign-ins of whom passwords could be left to. */
    administrators: readonly string[];
  } = $props();
  let chosen = $derived(new Set<Role>(settings.factorRoles));
  let minutes = $derived(String(settings.lockMinutes));
  let onlyLocal = $derived(settings.onlyLocal ?? '');
  let says = $state('');
  let isRefused = $state(false);

  function choose(role: Role): void {
    chosen = chosen.has(role)
      ? new Set([...chosen].filter((one) => one !== role))
      : new Set([...chosen, role]);
  }
  async function keep(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    const factorRoles = allRoles.filter((role) => chosen.has(role));
    const body = {
      ...{ factorRoles, lockMinutes: typedWhole(minutes) },
      onlyLocal: onlyLocal || null
    };
    const reply = await send('PUT', '/api/v1/access-settings', body);
    isRefused = !reply.ok;
    says = reply.ok ? 'Kept.' : messagesOf(reply.refusal).join(' ');
    if (reply.ok) await refresh();
  }
</script>

<form onsubmit={keep} aria-label="How people come in">
  <h2>How people come in</h2>
  <fieldset>
    <legend class="small soft">A second factor is demanded of</legend>
    {#each allRoles as role (role)}<label class="tick"
        ><input type="checkbox" checked={chosen.has(role)} onchange={() => choose(role)} />
        {role}</label
      >{/each}
  </fieldset>
  <div class="field-row">
    <label class="stack"
      >A device left alone locks after, in minutes<input
        class="field number"
        bind:value={minutes}
        inputmode="numeric"
        maxlength="4"
      /></label
    >
    {#if page.data.elsewhere || settings.onlyLocal}<label class="stack"
        >With a password comes in<select class="field" bind:value={onlyLocal}>
          <option value="">everybody who has one</option>
          {#each administrators as login (login)}<option value={login}>{login} only</option>{/each}
        </select></label
      >{/if}
    <button class="act">Keep</button>
    {#if says}<p class={isRefused ? 'stop' : 'good'} role="status">{says}</p>{/if}
  </div>
</form>

<style>
  form {
    display: grid;
    gap: 12px;
    margin-top: 28px;
    padding-top: 16px;
    border-top: 1px solid var(--line);
    max-width: 900px;
  }
  h2 {
    font-size: 16px;
    color: var(--ink);
  }
  fieldset {
    border: 0;
    padding: 0;
    margin: 0;
    display: flex;
    flex-wrap: wrap;
    gap: 4px 20px;
  }
  .tick {
    display: flex;
    gap: 8px;
    align-items: center;
    min-height: 32px;
  }
  .field-row p {
    align-self: center;
  }
</style>
