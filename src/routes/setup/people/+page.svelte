<script lang="ts">
  import { invalidateAll } from '$app/navigation';
  import { Checkbox, Modal, PasswordInput, TextInput } from 'carbon-components-svelte';
  import { sayDay } from '$lib/core/calendar/say-day.ts';
  import { ONLY_NEW, send, type Refusal } from '$lib/ui/frame/api.ts';
  import { fieldError, otherErrors } from '$lib/ui/parts/refusal.ts';
  import { count, sayInstant } from '$lib/ui/parts/say.ts';

  let { data } = $props();
  type Person = (typeof data.people)[number];
  let open = $state(false);
  let isNew = $state(true);
  let form = $state({ login: '', name: '', active: true, password: '' });
  let roles = $state<Record<string, boolean>>({});
  let refusal = $state.raw<Refusal | null>(null);
  let tokensOf = $state<string | null>(null);
  let tokenName = $state('');
  let tokenRole = $state('');
  let tokenDays = $state('365');
  let secret = $state('');
  const tokenPerson = $derived(data.people.find((person) => person.login === tokensOf));

  function edit(person: Person | null): void {
    isNew = person === null;
    form = person
      ? { login: person.login, name: person.name, active: person.active, password: '' }
      : { login: '', name: '', active: true, password: '' };
    roles = Object.fromEntries(
      data.allRoles.map((role) => [role, person?.roles.includes(role) ?? false])
    );
    refusal = null;
    open = true;
  }
  async function save(): Promise<void> {
    const { login, password, ...body } = form;
    const reply = await send(
      'PUT',
      `/api/v1/people/${encodeURIComponent(login.trim() || ' ')}`,
      {
        ...body,
        roles: data.allRoles.filter((role) => roles[role]),
        ...(password ? { password } : {})
      },
      isNew ? ONLY_NEW : {}
    );
    refusal = reply.ok ? null : reply.refusal;
    if (reply.ok) {
      open = false;
      await invalidateAll();
    }
  }
  async function makeToken(): Promise<void> {
    const reply = await send<{ secret: string }>(
      'POST',
      `/api/v1/people/${encodeURIComponent(tokensOf!)}/tokens`,
      { name: tokenName, roles: [tokenRole], days: Number(tokenDays) }
    );
    refusal = reply.ok ? null : reply.refusal;
    if (reply.ok) {
      secret = reply.body.secret;
      tokenName = '';
      await invalidateAll();
    }
  }
  async function revoke(id: number): Promise<void> {
    await send('DELETE', `/api/v1/people/${encodeURIComponent(tokensOf!)}/tokens?id=${id}`);
    await invalidateAll();
  }
</script>

<svelte:head><title>People · Setup · Earmark</title></svelte:head>
<div class="setup">
  <div class="head">
    <h1>People</h1>
    <button class="act main" onclick={() => edit(null)}>New person</button>
  </div>
  <table class="plain middle">
    <thead
      ><tr
        ><th scope="col">Signs in as</th><th scope="col">Name</th><th scope="col">Roles</th><th
          scope="col">Access</th
        ><th scope="col">API tokens</th><th><span class="visually-hidden">Change</span></th></tr
      ></thead
    >
    <tbody>
      {#each data.people as person (person.login)}
        <tr
          ><td class="number"><b>{person.login}</b></td><td>{person.name}</td><td
            >{person.roles.join(', ') || 'none'}</td
          ><td>{!person.active ? 'ended' : person.canSignIn ? 'signs in' : 'tokens only'}</td>
          <td
            ><button
              class="act quiet"
              aria-label="API tokens of {person.name}"
              onclick={() => {
                tokensOf = person.login;
                tokenRole = person.roles[0] ?? '';
                secret = '';
                refusal = null;
              }}>{count(person.tokens.filter((token) => !token.revoked).length, 'token')}</button
            ></td
          >
          <td class="right"
            ><button
              class="act quiet"
              aria-label="Change {person.name}"
              onclick={() => edit(person)}>Change</button
            ></td
          ></tr
        >
      {/each}
    </tbody>
  </table>
</div>
<Modal
  bind:open
  size="sm"
  modalLabel={isNew ? 'New person' : form.name}
  primaryButtonText="Keep person"
  secondaryButtonText="Leave it"
  on:submit={save}
  on:click:button--secondary={() => (open = false)}
  selectorPrimaryFocus="#person-name"
>
  {#each otherErrors(refusal, ['code', 'name', 'password']) as message, index (index)}<p
      class="refused"
      role="alert"
    >
      {message}
    </p>{/each}
  <div class="dialog-form">
    <TextInput
      labelText="Signs in as"
      bind:value={form.login}
      disabled={!isNew}
      maxlength={60}
      invalid={!!fieldError(refusal, 'code')}
      invalidText={fieldError(refusal, 'code')}
    />
    <TextInput
      id="person-name"
      labelText="Name"
      bind:value={form.name}
      maxlength={200}
      invalid={!!fieldError(refusal, 'name')}
      invalidText={fieldError(refusal, 'name')}
    />
    <PasswordInput
      labelText={isNew ? 'Password' : 'New password; empty keeps the present one'}
      bind:value={form.password}
      autocomplete="new-password"
      invalid={!!fieldError(refusal, 'password')}
      invalidText={fieldError(refusal, 'password')}
    />
    <fieldset>
      <legend class="small soft">Roles</legend>
      <div class="roles">
        {#each data.allRoles as role (role)}<Checkbox
            labelText={role}
            bind:checked={roles[role]}
          />{/each}
      </div>
    </fieldset>
    <Checkbox labelText="May sign in and book" bind:checked={form.active} />
  </div>
</Modal>
<Modal
  open={tokensOf !== null}
  passiveModal
  size="sm"
  modalLabel="API tokens of {tokenPerson?.name ?? ''}"
  on:close={() => (tokensOf = null)}
>
  {#each otherErrors(refusal, []) as message, index (index)}<p class="refused" role="alert">
      {message}
    </p>{/each}
  {#if secret}<p class="secret">The token, told only now: <b class="number">{secret}</b></p>{/if}
  <ul>
    {#each tokenPerson?.tokens ?? [] as token (token.id)}<li class="token">
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
  <form
    class="new"
    onsubmit={(event) => {
      event.preventDefault();
      void makeToken();
    }}
  >
    <label class="stack"
      >For what<input class="field" bind:value={tokenName} required maxlength="100" /></label
    >
    <label class="stack"
      >Role<select class="field" bind:value={tokenRole}
        >{#each tokenPerson?.roles ?? [] as role (role)}<option>{role}</option>{/each}</select
      ></label
    >
    <label class="stack"
      >Good for<select class="field" bind:value={tokenDays}
        ><option value="30">30 days</option><option value="90">90 days</option><option value="365"
          >a year</option
        ><option value="730">two years</option></select
      ></label
    >
    <button class="act main">Make a token</button>
  </form>
</Modal>

<style>
  fieldset {
    border: 0;
    padding: 0;
    margin: 0;
  }
  .roles {
    display: grid;
    grid-template-columns: 1fr 1fr;
  }
  .secret {
    background: var(--amber);
    padding: 10px 12px;
    overflow-wrap: anywhere;
  }
  .token {
    display: flex;
    justify-content: space-between;
    align-items: center;
    padding: 6px 0;
    border-bottom: 1px solid var(--line);
  }
  .new {
    display: flex;
    flex-wrap: wrap;
    gap: 12px;
    align-items: end;
    margin-top: 14px;
  }
</style>
