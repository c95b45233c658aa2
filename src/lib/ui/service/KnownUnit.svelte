<!-- What stands there at once when a unit is scanned: who bought it, warranty, recalls, earlier jobs. -->
<script lang="ts">
  import { sayDay } from '../../core/calendar/say-day.ts';
  import { count } from '../parts/say.ts';
  import Tag from '../stock/Tag.svelte';
  import { sayWarranty } from './say-warranty.ts';
  import { openJobOf, type FoundUnit } from './taking-in.ts';

  let { unit }: { unit: FoundUnit } = $props();
  const sale = $derived(unit.sales[0]);
  const open = $derived(openJobOf(unit));
  const before = $derived(unit.jobs.filter((job) => job !== open));
</script>

<div class="known">
  <Tag
    kind="serial"
    number={unit.serial}
    under="{unit.product} {unit.name}"
    href="/marks/{unit.mark}"
    large
  />
  <ul>
    <li>
      {#if sale}sold to <b>{sale.partner ?? 'nobody named'}</b> on {sayDay(sale.day)},
        <span class="number">{sale.document}</span>{:else}never sold by us{/if}{unit.place
        ? `; lies at ${unit.place}`
        : ''}
    </li>
    <li class:good={unit.warranties?.ours.state === 'running'}>
      {sayWarranty(unit.warranties?.ours)}
    </li>
    <li><a href="/marks/{unit.mark}/as-built?as=is">what is in it</a></li>
    {#if unit.recalled}<li class="stop"><b>It stands in an open recall.</b></li>{/if}
    {#if open}<li class="stop">
        It has an open job: <a href="/service/{encodeURIComponent(open.number)}">{open.number}</a>,
        {open.state}.
      </li>{/if}
    {#each before.slice(0, 3) as job (job.number)}<li>
        before: <a href="/service/{encodeURIComponent(job.number)}">{job.number}</a>, {job.fault}
      </li>{/each}
    {#if before.length > 3}<li>and {count(before.length - 3, 'earlier job')}</li>{/if}
  </ul>
</div>

<style>
  .known {
    display: flex;
    gap: 24px;
    flex-wrap: wrap;
    padding: 14px;
    background: var(--paper);
    border: 1px solid var(--line);
  }
  ul {
    display: grid;
    gap: 4px;
    align-content: center;
  }
</style>
