<script lang="ts">
  import { groupBy } from '$lib/core/group-by.ts';
  import { OPEN_STATES } from '$lib/core/service/job-state.ts';
  import Live from '$lib/ui/frame/Live.svelte';
  import Cut from '$lib/ui/parts/Cut.svelte';
  import JobCard from '$lib/ui/service/JobCard.svelte';
  import JobTable from '$lib/ui/service/JobTable.svelte';
  import ServiceNav from '$lib/ui/service/ServiceNav.svelte';

  let { data } = $props();
  const byState = $derived(groupBy(data.open.rows, (job) => job.state));
  const filled = $derived(OPEN_STATES.filter((state) => byState.has(state)));
  const empty = $derived(OPEN_STATES.filter((state) => !byState.has(state)));
  const late = $derived(
    data.open.rows.filter((job) => job.promised !== null && job.promised < data.today).length
  );
</script>

<svelte:head><title>Service · Earmark</title></svelte:head>
<Live of={['service']} />
<ServiceNav />
<div class="page">
  <div class="page-head">
    <h1>Service</h1>
    <p class="soft">
      {data.open.total === 0 ? 'Nothing is in service' : `${data.open.total} in service`}{late > 0
        ? `, ${late} later than promised`
        : ''}
    </p>
    <span class="page-acts"
      >{#if data.as === 'board'}<a class="act quiet" href="/service?as=list">As a list</a>{:else}<a
          class="act quiet"
          href="/service">As a board</a
        >{/if}{#if data.mayServe}<a class="act main" href="/service/new">Take a unit in</a
        >{/if}</span
    >
  </div>
  {#if data.as === 'board'}
    <div class="board">
      {#each filled as state (state)}
        {@const jobs = byState.get(state)!}
        <section aria-label={state}>
          <h2>{state} <span>{jobs.length}</span></h2>
          {#each jobs as job (job.number)}<JobCard {job} today={data.today} />{/each}
        </section>
      {:else}<p class="soft">
          A unit that comes back is taken in here: scan it, and what it is, who bought it and
          whether it is under warranty stand there at once.
        </p>{/each}
    </div>
    {#if filled.length > 0 && empty.length > 0}<p class="soft small">
        Nothing is {empty.join(' · ')}.
      </p>{/if}
    <Cut
      shown={data.open.rows.length}
      total={data.open.total}
      of="open jobs"
      rest="those promised soonest are shown; find others in the list"
    />
  {:else}
    <JobTable jobs={data.open.rows} today={data.today} none="Nothing is in service." />
    <form class="find field-row" action="/service">
      <input type="hidden" name="as" value="list" />
      <label class="stack"
        >find any job: number, serial, product, customer<input
          class="field"
          name="q"
          value={data.q}
        /></label
      >
      <button class="act">Find</button>
    </form>
    <h2>{data.q === '' ? 'Ended' : `With “${data.q}”`} <span>{data.others.total}</span></h2>
    <JobTable jobs={data.others.rows} today={data.today} none="There is none." />
    <Cut
      shown={data.others.rows.length}
      total={data.others.total}
      of="jobs"
      rest="find others by number, serial, product or customer"
    />
  {/if}
</div>

<style>
  .board {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(196px, 1fr));
    gap: 16px;
    align-items: start;
  }
  section {
    display: grid;
    gap: 8px;
  }
  h2 {
    display: flex;
    justify-content: space-between;
    border-bottom: 1px solid var(--line);
    padding-bottom: 6px;
  }
  .find .field {
    min-width: min(340px, 70vw);
  }
</style>
