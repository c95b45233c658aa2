<!-- A person, read first: what they may, how they sign in, what the security log says of them. -->
<script lang="ts">
  import type { TokenRecord } from '../../core/people/account.ts';
  import type { Role } from '../../core/people/rights.ts';
  import { sayRights } from '../../core/people/say-rights.ts';
  import { messagesOf, send } from '../frame/api.ts';
  import { putRecord } from '../frame/put-record.ts';
  import { refresh } from '../frame/refresh.ts';
  import { InPlace } from '../parts/in-place.svelte.ts';
  import ReadFirst from '../parts/ReadFirst.svelte';
  import { fieldError } from '../parts/refusal.ts';
  import { count, sayInstant } from '../parts/say.ts';
  import Sentences from '../parts/Sentences.svelte';
  import TextField from '../parts/TextField.svelte';
  import TickField from '../parts/TickField.svelte';
  import PasswordField from './PasswordField.svelte';
  import RolesField from './RolesField.svelte';
  import TokensDialog from './TokensDialog.svelte';

  interface Props {
    person: {
      login: string;
      name: string;
      roles: Role[];
      active: boolean;
      canSignIn: boolean;
      factor: boolean;
      tokens: TokenRecord[];
    };
    tag: string;
    /** Whether it is the one who looks. */
    own: boolean;
    allRoles: readonly Role[];
    log: readonly { id: number; at: string; kind: string; about: string; address: string | null }[];
  }
  let { person, tag, own, allRoles, log }: Props = $props();
  const path = $derived(`/api/v1/people/${encodeURIComponent(person.login)}`);
  let showTokens = $state(false);
  let refused = $state.raw<string[]>([]);
  const live = $derived(person.tokens.filter((token) => !token.revoked).length);
  const put = (change: object) => {
    const { login, name, roles, active } = person;
    return putRecord('people', login, { ...{ name, roles, active }, ...change }, tag);
  };
  const may = new InPlace(
    () => ({ name: person.name, roles: [...person.roles], active: person.active }),
    (form) => put(form)
  );
  const password = new InPlace(() => ({ password: '' }), put);
  const rights = $derived(sayRights(person.roles));
  const says = $derived(sayPerson());
  const signsIn = $derived([
    person.canSignIn
      ? `Signs in as ${person.login}, with a password${person.factor ? ' and a second factor' : ''}.`
      : `Has no password: only tokens act for ${person.login}.`,
    `${count(live, 'API token')} ${live === 1 ? 'acts' : 'act'} for them.`
  ]);

  function sayPerson(): string[] {
    if (!person.active) return ['May no longer sign in or book.'];
    if (person.roles.length === 0) return ['Has no role: may read nothing and book nothing.'];
    const is = `Is ${person.roles.join(', ')}.`;
    return rights.length > 0 ? [is, `May ${rights.join(', ')}.`] : [is];
  }

  async function takeFactorsAway(): Promise<void> {
    const reply = await send('DELETE', `${path}/factors`);
    refused = reply.ok ? [] : messagesOf(reply.refusal);
    if (reply.ok) await refresh();
  }
</script>

<div class="page">
  <div class="page-head">
    <h1>{person.name}</h1>
    <span class="soft number">{person.login}</span>
    <span class="page-acts"><a class="act quiet" href="/setup/people">All people</a></span>
  </div>
  <ReadFirst title="What they may" place={may} mayEdit known={['name']}>
    {#snippet read()}<Sentences {says} />{/snippet}
    {#snippet edit(form)}
      <div class="form-fields">
        <TextField label="Name" bind:value={form.name} error={fieldError(may.refusal, 'name')} />
      </div>
      <RolesField all={allRoles} bind:roles={form.roles} />
      <TickField label="May sign in and book" bind:value={form.active} />
    {/snippet}
  </ReadFirst>
  <ReadFirst title="Password" place={password} mayEdit known={['password']}>
    {#snippet read()}<Sentences says={signsIn} />{/snippet}
    {#snippet edit(form)}
      <div class="password">
        <PasswordField
          label="New password"
          isNew
          bind:value={form.password}
          fault={fieldError(password.refusal, 'password')}
        />
        <p class="small soft">
          They change it when they first sign in with it. Whoever is signed in as them now is signed
          out, and their tokens end.
        </p>
      </div>
    {/snippet}
  </ReadFirst>
  <p class="acts">
    <button class="act" onclick={() => (showTokens = true)}>API tokens</button>
    {#if person.factor && !own}<button class="act danger" onclick={takeFactorsAway}
        >Take the second factor away</button
      ><span class="small soft"
        >Where their device is lost: they are signed out everywhere too.</span
      >{/if}
  </p>
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  <section>
    <h2>What they did, by the security log</h2>
    <ul>
      {#each log as line (line.id)}<li>
          <span class="small soft">{sayInstant(line.at)}</span>
          <span>{line.kind}</span>
          <span class="soft">{line.about}</span>
        </li>{:else}<li class="soft">Nothing yet.</li>{/each}
    </ul>
    {#if log.length > 0}<p>
        <a href="/setup/security?who={encodeURIComponent(person.login)}">All of it</a>
      </p>{/if}
  </section>
</div>
<TokensDialog person={showTokens ? person : undefined} onclose={() => (showTokens = false)} />

<style>
  .password {
    display: grid;
    gap: 8px;
    max-width: 420px;
  }
  .acts {
    display: flex;
    gap: 12px;
    align-items: center;
    flex-wrap: wrap;
  }
  section {
    display: grid;
    gap: 8px;
  }
  h2 {
    font-size: 15px;
    color: var(--ink);
  }
  li {
    display: grid;
    grid-template-columns: 150px 190px minmax(0, 1fr);
    gap: 14px;
    padding: 6px 0;
    border-bottom: 1px solid #ebe5da;
  }
  @media (max-width: 700px) {
    li {
      grid-template-columns: 1fr;
      gap: 2px;
    }
  }
</style>
