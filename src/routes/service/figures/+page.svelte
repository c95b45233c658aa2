<script lang="ts">
  import DateField from '$lib/ui/parts/DateField.svelte';
  import AsOf from '$lib/ui/parts/AsOf.svelte';
  import FaultBars from '$lib/ui/service/FaultBars.svelte';
  import FieldChart from '$lib/ui/service/FieldChart.svelte';
  import ServiceNav from '$lib/ui/service/ServiceNav.svelte';
  import { count } from '$lib/ui/parts/say.ts';

  let { data } = $props();
  const figures = $derived(data.figures);
  const days = (n: number | null): string =>
    n === null ? '–' : `${Math.round(n * 10) / 10} ${n === 1 ? 'day' : 'days'}`;
</script>

<svelte:head><title>Service figures · Earmark</title></svelte:head>
<ServiceNav />
<div class="page">
  <h1>Figures</h1>
  <form class="field-row" action="/service/figures">
    <label class="stack"
      >product<select class="field" name="product" value={data.asked.product ?? ''}
        ><option value="">all</option>{#each data.products as one (one.code)}<option
            value={one.code}>{one.code} {one.name}</option
          >{/each}</select
      ></label
    >
    <DateField label="taken in from" name="from" value={data.asked.from ?? ''} />
    <DateField label="until" name="to" value={data.asked.to ?? ''} />
    <button class="act">Show</button>
  </form>
  <p class="small soft"><AsOf at={data.at} underWay={data.underWay} /></p>
  {#if figures}<dl>
      <div>
        <dt>taken in</dt>
        <dd>{count(figures.jobs, 'unit')}</dd>
      </div>
      <div>
        <dt>half were back within</dt>
        <dd>{days(figures.turnaround.median)}</dd>
      </div>
      <div>
        <dt>nine in ten within</dt>
        <dd>{days(figures.turnaround.most)}</dd>
      </div>
      <div>
        <dt>back again within 90 days</dt>
        <dd>
          {#each figures.repeats.slice(0, 6) as one (one.number)}<a
              class="number"
              href="/service/{encodeURIComponent(one.number)}">{one.serial}</a
            >{:else}none{/each}{figures.repeats.length > 6
            ? `and ${figures.repeats.length - 6} more`
            : ''}
        </dd>
      </div>
    </dl>
    <section>
      <h2>Failures per thousand in the field, by month since dispatch</h2>
      <FieldChart months={figures.field} />
    </section>
    <div class="bars">
      <FaultBars title="By fault" groups={figures.faults} />
      <FaultBars title="By product" groups={figures.products} />
      <FaultBars title="Parts that came out, by lot or delivery" groups={figures.lots} />
      <FaultBars title="Parts that came out, by supplier" groups={figures.suppliers} />
    </div>{/if}
</div>

<style>
  dl {
    display: flex;
    gap: 12px 40px;
    flex-wrap: wrap;
  }
  dt {
    color: var(--ink-soft);
    font-size: 13px;
  }
  dd {
    font-size: 20px;
    font-weight: 600;
  }
  dd a {
    font-size: 15px;
    margin-right: 10px;
  }
  .bars {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(min(420px, 100%), 1fr));
    gap: 24px 36px;
  }
</style>
