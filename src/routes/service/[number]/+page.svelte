<script lang="ts">
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { sayDay, sayDistance } from '$lib/core/calendar/say-day.ts';
  import { isOver } from '$lib/core/service/job-state.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import { newKey } from '$lib/ui/frame/new-key.ts';
  import { dayOfInstant } from '$lib/ui/parts/say.ts';
  import JobHistory from '$lib/ui/service/JobHistory.svelte';
  import JobParts from '$lib/ui/service/JobParts.svelte';
  import JobPhotos from '$lib/ui/service/JobPhotos.svelte';
  import MarkTests from '$lib/ui/quality/MarkTests.svelte';
  import JobTurns from '$lib/ui/service/JobTurns.svelte';
  import { sayWarranty } from '$lib/ui/service/say-warranty.ts';
  import ServiceNav from '$lib/ui/service/ServiceNav.svelte';
  import Tag from '$lib/ui/stock/Tag.svelte';

  let { data } = $props();
  const job = $derived(data.job);
  const over = $derived(isOver(job.state));
  const address = $derived(`/api/v1/service-jobs/${encodeURIComponent(job.number)}`);
  const sale = $derived(data.sales[0]);
  let refused = $state.raw<string[]>([]);
  let busy = $state(false);
  let key = newKey();

  /** @returns whether it was kept */
  async function act(method: 'POST' | 'PATCH', path: string, body: object): Promise<boolean> {
    if (busy) return false;
    busy = true;
    const reply = await send<object>(method, address + path, body, { 'idempotency-key': key });
    busy = false;
    refused = reply.ok ? [] : messagesOf(reply.refusal);
    if (!reply.ok) return false;
    key = newKey();
    await refresh();
    return true;
  }
  const says = (decided: boolean | null, yes: string, no: string, open: string): string => {
    if (decided === null) return open;
    return decided ? yes : no;
  };
</script>

<svelte:head><title>Job {job.number} · Earmark</title></svelte:head>
<ServiceNav />
<div class="page">
  <div class="page-head">
    <h1>Job <span class="number">{job.number}</span></h1>
    <b class="state" class:over>{job.state}</b>
    <p class="soft">
      {job.customerName}, opened {sayDay(dayOfInstant(job.openedAt))}{job.promised
        ? `, promised ${sayDistance(job.promised, data.today)}`
        : ''}
    </p>
    <a class="act receipt" href="{address}/receipt" target="_blank" rel="noopener"
      >Receipt for the customer</a
    >
  </div>
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  {#if data.recalled}<p class="refused">
      This unit stands in an open recall. Look at the case before it goes back.
    </p>{/if}
  <div class="two">
    <section>
      <div class="unit">
        <Tag
          kind="serial"
          number={job.serial}
          under="{job.product} {job.productName}"
          state={job.markState === 'rejected' ? 'rejected' : 'usable'}
          {...job.mark === null ? {} : { href: `/marks/${job.mark}` }}
          large
        />
        <p>
          {job.fault}{#if job.faultName}<br /><span class="soft">{job.faultName}</span>{/if}
        </p>
      </div>
      <dl>
        <dt>sold</dt>
        <dd>
          {#if sale}{sale.partner ?? 'nobody named'}, {sayDay(sale.day)},
            <span class="number">{sale.document}</span>{:else}not by us{/if}
        </dd>
        <dt>our warranty</dt>
        <dd>
          {sayWarranty(data.warranties?.ours)}; {says(
            job.underWarranty,
            'taken as warranty',
            'not taken as warranty',
            'not decided'
          )}; {says(job.charged, 'charged', 'not charged', 'charging it is not decided')}
        </dd>
        {#if job.place && !over}<dt>lies at</dt>
          <dd>{job.place}</dd>{/if}
        {#if job.condition}<dt>condition</dt>
          <dd>{job.condition}</dd>{/if}
        {#if job.accessories}<dt>came with it</dt>
          <dd>{job.accessories}</dd>{/if}
        <dt>speak to</dt>
        <dd>
          {[job.contact.name, job.contact.email, job.contact.phone].filter(Boolean).join(', ') ||
            'nobody named'}
        </dd>
        <dt>tracking</dt>
        <dd class="number">{job.tracking}</dd>
        {#if job.serialNow !== job.serial}<dt>its number now</dt>
          <dd><a class="number" href="/marks/{job.mark}">{job.serialNow}</a></dd>{/if}
        {#if job.exchange}<dt>in its place</dt>
          <dd>
            <a class="number" href="/marks/{job.exchange.mark}">{job.exchange.serial}</a>
            {job.exchange.product}
          </dd>{/if}
        {#if data.jobs.length > 0}<dt>other jobs</dt>
          <dd>
            {#each data.jobs as other (other.number)}<a
                class="number"
                href="/service/{encodeURIComponent(other.number)}">{other.number}</a
              >
              <span class="soft">{other.fault}</span><br />{/each}
          </dd>{/if}
      </dl>
      <JobParts
        inside={data.inside}
        out={data.out}
        number={job.number}
        mark={job.mark}
        mayServe={data.mayServe}
        here={!over && job.state !== 'waiting for unit'}
        onclaim={(part) => act('POST', '/claim', part)}
      />
      {#if data.quality && data.quality.asked.length > 0}
        <div>
          <MarkTests
            mark={{ product: job.product, kind: 'serial', number: job.serialNow }}
            quality={data.quality}
            mayTest={data.mayTest}
          />
        </div>
      {/if}
      <JobPhotos photos={data.photos} {address} mayAdd={data.mayServe} />
    </section>
    <section>
      {#if data.mayServe && !over}<JobTurns
          {job}
          places={data.places}
          mayDecide={data.mayDecide}
          {busy}
          onturn={(body) => act('PATCH', '', body)}
          onpost={(path, body) => act('POST', path, body)}
        />{/if}
      <JobHistory steps={data.steps} events={data.events} messages={data.messages} />
    </section>
  </div>
</div>

<style>
  .state {
    padding: 3px 10px;
    background: var(--amber);
  }
  .state.over {
    background: var(--paper);
    color: var(--ink-soft);
  }
  .receipt {
    margin-left: auto;
  }
  .two {
    display: grid;
    grid-template-columns: minmax(0, 3fr) minmax(320px, 2fr);
    gap: 32px;
  }
  section {
    display: grid;
    gap: 14px;
    align-content: start;
  }
  .unit {
    display: flex;
    gap: 20px;
    align-items: center;
    flex-wrap: wrap;
  }
  .unit p {
    flex: 1;
    min-width: 200px;
    overflow-wrap: anywhere;
  }
  dl {
    display: grid;
    grid-template-columns: max-content minmax(0, 1fr);
    gap: 5px 18px;
  }
  dt {
    color: var(--ink-soft);
  }
  dd {
    overflow-wrap: anywhere;
  }
  @media (max-width: 900px) {
    .two {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
