<script lang="ts">
  import AccessSettingsPart from '$lib/ui/people/AccessSettingsPart.svelte';
  import NewPerson from '$lib/ui/people/NewPerson.svelte';
  import { count } from '$lib/ui/parts/say.ts';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  let adding = $state(false);
</script>

<svelte:head><title>People · Setup · Earmark</title></svelte:head>
<div class="setup">
  <div class="head">
    <h1>People</h1>
    <button class="act main" onclick={() => (adding = true)}>New person</button>
  </div>
  <WideTable of="people">
    <table class="plain middle">
      <thead
        ><tr
          ><th scope="col">Signs in as</th><th scope="col">Name</th><th scope="col">Roles</th><th
            scope="col">Access</th
          ><th scope="col">API tokens</th></tr
        ></thead
      >
      <tbody data-list>
        {#each data.people as person (person.login)}
          <tr
            ><td class="number"
              ><a href="/setup/people/{encodeURIComponent(person.login)}"><b>{person.login}</b></a
              ></td
            ><td>{person.name}</td><td>{person.roles.join(', ') || 'none'}</td><td
              >{!person.active
                ? 'ended'
                : person.canSignIn
                  ? 'signs in'
                  : 'tokens only'}{person.factor ? ', with a second factor' : ''}</td
            >
            <td>{count(person.tokens.filter((token) => !token.revoked).length, 'token')}</td></tr
          >
        {/each}
      </tbody>
    </table>
  </WideTable>
  <AccessSettingsPart
    settings={data.settings}
    allRoles={data.allRoles}
    administrators={data.people
      .filter((one) => one.active && one.roles.includes('administrator'))
      .map((one) => one.login)}
  />
</div>
{#if adding}<NewPerson allRoles={data.allRoles} onclose={() => (adding = false)} />{/if}
