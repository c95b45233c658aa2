<script lang="ts">
  import DateField from '$lib/ui/parts/DateField.svelte';
  import { SECURITY_KINDS } from '$lib/core/people/security-event.ts';
  import { sayInstant } from '$lib/ui/parts/say.ts';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  const given = $derived(
    new URLSearchParams(Object.entries(data.asked).filter(([, value]) => value !== ''))
  );
  const file = $derived(`/api/v1/security-log?${given}&format=csv`);
  const REFUSED = ['refused', 'sign-in refused'];
</script>

<svelte:head><title>Security log · Setup · Earmark</title></svelte:head>
<div class="page">
  <div class="page-head">
    <h1>Security log</h1>
    <p class="soft">
      Who came in or was refused, who changed people, tokens, plans and settings, who took files
      away.
    </p>
    <span class="page-acts"><a class="act" href={file} download>As a file</a></span>
  </div>
  <form class="field-row" action="/setup/security">
    <label class="stack"
      >what<select class="field" name="kind" value={data.asked.kind}
        ><option value="">all</option>{#each SECURITY_KINDS as kind (kind)}<option>{kind}</option
          >{/each}</select
      ></label
    >
    <label class="stack"
      >who, by their sign-in<input
        class="field"
        name="who"
        maxlength="100"
        value={data.asked.who}
      /></label
    >
    <DateField label="from" name="from" value={data.asked.from} />
    <DateField label="until" name="to" value={data.asked.to} />
    <button class="act">Show</button>
  </form>
  <WideTable of="security events">
    <table class="plain">
      <thead
        ><tr
          ><th scope="col">When</th><th scope="col">What</th><th scope="col">Who</th><th scope="col"
            >From</th
          ><th scope="col">About</th></tr
        ></thead
      >
      <tbody data-list>
        {#each data.lines as line (line.id)}<tr>
            <td class="whole">{sayInstant(line.at)}</td>
            <td class="whole" class:stop={REFUSED.includes(line.kind)}>{line.kind}</td>
            <td
              >{line.who ?? line.login}{#if line.token}<br /><span class="small soft"
                  >through the token {line.token}</span
                >{:else if line.who === null && line.login}<br /><span class="small soft"
                  >the name that was given</span
                >{/if}</td
            >
            <td class="number whole">{line.address}</td>
            <td class="number about">{line.about}</td>
          </tr>{:else}<tr
            ><td colspan="5" class="soft">Nothing of that. Show all, or other days.</td></tr
          >{/each}
      </tbody>
    </table>
  </WideTable>
  {#if data.earlier !== null}<p>
      <a class="act" rel="next" href="/setup/security?{given}&before={data.earlier}">Earlier</a>
    </p>{/if}
</div>

<style>
  .whole {
    white-space: nowrap;
  }
  .about {
    overflow-wrap: anywhere;
    font-size: 13px;
  }
</style>
