<script lang="ts">
  import { sayDay } from '$lib/core/calendar/say-day.ts';
  import { saySscc } from '$lib/core/gs1/sscc.ts';
  import Tag from '$lib/ui/stock/Tag.svelte';
  import { count, sayInstant, sayQuantity } from '$lib/ui/parts/say.ts';

  let { data } = $props();
  const unit = $derived(data.unit);
</script>

<svelte:head><title>{unit.sscc} · Earmark</title></svelte:head>
<div class="screen">
  <h1>
    {unit.kind === 'pallet' ? 'Pallet' : 'Carton'} <span class="number">{saySscc(unit.sscc)}</span>
  </h1>
  <p class="soft">
    {#if unit.order}Packed for <a class="number" href="/ship/{encodeURIComponent(unit.order)}"
        >{unit.order}</a
      >{unit.partnerName ? ` of ${unit.partnerName}` : ''},
    {/if}begun {sayInstant(unit.madeAt)}.
    {#if unit.shipped}Left with <a class="number" href="/events/{unit.shipped.event}"
        >{unit.shipped.document}</a
      >
      on {sayInstant(unit.shipped.at)}.{:else}Still here.{/if}
    {#if unit.pallet}It stands on pallet <a class="number" href="/units/{unit.pallet}"
        >{saySscc(unit.pallet)}</a
      >.{/if}
  </p>
  <div class="acts">
    <a class="act main" href="/api/v1/units/{unit.sscc}/label" target="_blank" rel="noopener"
      >Print its label</a
    >{#if unit.order && !unit.shipped}<a
        class="act"
        href="/ship/{encodeURIComponent(unit.order)}/pack">To the packing bench</a
      >{/if}
  </div>
  {#if unit.cartons.length > 0}<section>
      <h2>On it <span>{count(unit.cartons.length, 'carton')}</span></h2>
      <ul>
        {#each unit.cartons as carton (carton.sscc)}<li>
            <a class="number" href="/units/{carton.sscc}">{saySscc(carton.sscc)}</a>
            <span class="soft">{carton.goods}</span>
          </li>{/each}
      </ul>
    </section>{/if}
  {#if unit.kind === 'carton'}<section>
      <h2>In it <span>{count(unit.contents.length, 'lot or serial', 'lots and serials')}</span></h2>
      <div class="tags" data-list>
        {#each unit.contents as one (one.mark)}<Tag
            kind={one.kind}
            number={one.number}
            under="{one.product} {one.kind === 'serial'
              ? ''
              : `· ${sayQuantity(one.quantity)} ${one.unit}`}{one.expires
              ? ` · ${sayDay(one.expires)}`
              : ''}"
            state="usable"
            href="/marks/{one.mark}"
          />{:else}<p class="soft">Empty.</p>{/each}
      </div>
    </section>{/if}
</div>

<style>
  .screen {
    padding: 26px 28px;
    display: grid;
    gap: 16px;
    align-content: start;
    background: var(--paper);
    min-height: 100%;
  }
  .acts {
    display: flex;
    gap: 10px;
    flex-wrap: wrap;
  }
  li {
    padding: 5px 0;
  }
  .tags {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
    gap: 10px;
    margin-top: 8px;
  }
</style>
