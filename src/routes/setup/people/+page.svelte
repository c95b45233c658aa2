<script lang="ts">
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { Checkbox, Modal, PasswordInput, TextInput } from 'carbon-components-svelte';
  import { ONLY_NEW, send, type Refusal } from '$lib/ui/frame/api.ts';
  import OtherErrors from '$lib/ui/parts/OtherErrors.svelte';
  import { fieldError } from '$lib/ui/parts/refusal.ts';
  import { count } from '$lib/ui/parts/say.ts';
  import AccessSettingsPart from '$lib/ui/people/AccessSettingsPart.svelte';
  import TokensDialog from '$lib/ui/people/TokensDialog.svelte';

  let { data } = $props();
  type Person = (typeof data.people)[number];
  let open = $state(false);
  let hasFactor = $state(false);
  let isNew = $state(true);
  let form = $state({ login: '', name: '', active: true, password: '' });
  let roles = $state<Record<string, boolean>>({});
  let refusal = $state.raw<Refusal | null>(null);
  let tokensOf = $state<string | null>(null);
  const tokenPerson = $derived(data.people.find((person) => person.login === tokensOf));

  function edit(person: Person | null): void {
    isNew = person === null;
    hasFactor = (person?.factor ?? false) && person?.login !== data.own;
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
      await refresh();
    }
  }
  async function takeFactorsAway(): Promise<void> {
    const path = `/api/v1/people/${encodeURIComponent(form.login)}/factors`;
    const reply = await send('DELETE', path);
    refusal = reply.ok ? null : reply.refusal;
    if (reply.ok) {
      open = false;
      await refresh();
    }
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
          ><td
            >{!person.active
              ? 'ended'
              : person.canSignIn
                ? 'signs in'
                : 'tokens only'}{person.factor ? ', with a second factor' : ''}</td
          >
          <td
            ><button
              class="act quiet"
              aria-label="API tokens of {person.name}"
              onclick={() => (tokensOf = person.login)}
              >{count(person.tokens.filter((token) => !token.revoked).length, 'token')}</button
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
  <AccessSettingsPart
    settings={data.settings}
    allRoles={data.allRoles}
    administrators={data.people
      .filter((one) => one.active && one.roles.includes('administrator'))
      .map((one) => one.login)}
  />
</div>
<Modal
  bind:open
  size="sm"
  modalLabel={isNew ? 'New person' : form.name}
  primaryButtonText="Keep person"
  secondaryButtonText="Leave it"
  on:submit={save}
  on:click:button--secondary={() => (open = false)}
  selectorPrimaryFocus={isNew ? '#person-login' : '#person-name'}
>
  <OtherErrors {refusal} known={['code', 'name', 'password']} />
  <div class="dialog-form">
    <TextInput
      id="person-login"
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
      helperText="Whoever gets a password from you changes it when they first sign in."
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
    {#if hasFactor}<p class="small soft lost">
        Device lost? Their second factor is taken away and they are signed out everywhere.
        <button class="act danger" onclick={takeFactorsAway}>Take the second factor away</button>
      </p>{/if}
  </div>
</Modal>
<TokensDialog person={tokenPerson} onclose={() => (tokensOf = null)} />

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
  .lost {
    display: grid;
    gap: 8px;
    justify-items: start;
  }
</style>
