<!-- A place, read first: what it is, what lies there, how exact it is. -->
<script lang="ts">
  import { sayDay, sayDistance } from '../../../core/calendar/say-day.ts';
  import { putRecord } from '../../frame/put-record.ts';
  import AndMore from '../../parts/AndMore.svelte';
  import ChoiceField from '../../parts/ChoiceField.svelte';
  import { InPlace } from '../../parts/in-place.svelte.ts';
  import ReadFirst from '../../parts/ReadFirst.svelte';
  import { fieldError } from '../../parts/refusal.ts';
  import { count, sayQuantity } from '../../parts/say.ts';
  import Sentences from '../../parts/Sentences.svelte';
  import TextField from '../../parts/TextField.svelte';
  import { PLACE_KIND_CHOICES, sayPlaceKind } from './place-kinds.ts';
  import WideTable from '../../parts/WideTable.svelte';

  interface Props {
    place: { code: string; name: string; kind: string; site: string; siteName: string };
    tag: string;
    there: {
      rows: { product: string; name: string; unit: string; quantity: string; marks: number }[];
      total: number;
    };
    exactness: {
      marks: number;
      countedOn: string | null;
      counts: { day: string; document: string; lines: number; right: number }[];
      openIn: string | null;
    } | null;
    orders: number;
    today: string;
    mayEdit: boolean;
  }
  let { place, tag, there, exactness, orders, today, mayEdit }: Props = $props();
  const path = $derived(encodeURIComponent(place.code));
  const changing = new InPlace(
    () => ({ name: place.name, site: place.site, kind: place.kind }),
    (form) => putRecord('places', place.code, form, tag)
  );
  const wrong = (field: string): string => fieldError(changing.refusal, field);
  const says = $derived([
    `${place.name}, at ${place.siteName}.`,
    sayPlaceKind(place.kind),
    ...(orders > 0
      ? [`${count(orders, 'order')} that wait ${orders === 1 ? 'is' : 'are'} made here.`]
      : [])
  ]);
  const exact = ({ lines, right }: { lines: number; right: number }): number =>
    lines === 0 ? 100 : Math.floor((right / lines) * 100);
</script>

<div class="page">
  <div class="head">
    <h1><span class="number">{place.code}</span> {place.name}</h1>
    <a class="act quiet" href="/history?place={path}">What happened here</a><a
      class="act"
      href="/move?place={path}">Move what lies here</a
    ><a class="act" href="/count?place={path}">Count it</a><a class="act quiet" href="/setup/places"
      >All places</a
    >
  </div>
  <ReadFirst title="What it is" place={changing} {mayEdit} known={['name', 'site', 'kind']}>
    {#snippet read()}<Sentences {says} />{/snippet}
    {#snippet edit(form)}
      <div class="form-fields">
        <TextField label="Name" bind:value={form.name} error={wrong('name')} />
        <TextField
          label="Site"
          number
          most={60}
          bind:value={form.site}
          hint="By code; a new one is made"
          error={wrong('site')}
        />
        <ChoiceField
          label="Kind"
          bind:value={form.kind}
          choices={PLACE_KIND_CHOICES}
          hint={sayPlaceKind(form.kind)}
          error={wrong('kind')}
        />
      </div>
    {/snippet}
  </ReadFirst>
  <section>
    <h2>What lies here <span class="soft">{there.total}</span></h2>
    <WideTable of="what lies there">
      <table class="plain">
        <thead
          ><tr
            ><th scope="col">Product</th><th scope="col" class="right">Quantity</th><th
              scope="col"
              class="right">Lots and serials</th
            ></tr
          ></thead
        >
        <tbody>
          {#each there.rows as row (row.product)}<tr
              ><td
                ><a class="number" href="/setup/products/{encodeURIComponent(row.product)}"
                  ><b>{row.product}</b></a
                >
                {row.name}</td
              ><td class="right"
                ><span class="number">{sayQuantity(row.quantity)}</span>
                <span class="small soft">{row.unit}</span></td
              ><td class="right number">{sayQuantity(String(row.marks))}</td></tr
            >{:else}<tr><td colspan="3" class="soft">Nothing lies here.</td></tr>{/each}
        </tbody>
      </table>
    </WideTable>
    <AndMore shown={there.rows.length} total={there.total} />
    {#if there.total > 0}<p>
        <a href="/on-hand?q={path}">Every lot and serial that lies here</a>
      </p>{/if}
  </section>
  <section>
    <h2>How exact it is</h2>
    {#if exactness?.openIn}<p>
        It is being counted in <a
          class="number"
          href="/count/{encodeURIComponent(exactness.openIn)}">{exactness.openIn}</a
        >.
      </p>{/if}
    {#each exactness?.counts ?? [] as one (one.document)}<p class="count">
        <a class="number" href="/count/{encodeURIComponent(one.document)}">{one.document}</a>
        <span>{sayDay(one.day)}, {sayDistance(one.day, today)}</span>
        <b class="number" class:stop={one.right < one.lines}>{exact(one)} %</b>
        <span class="small soft">{one.right} of {count(one.lines, 'line')} were right</span>
      </p>{:else}<p class="soft">It was never counted.</p>{/each}
  </section>
</div>

<style>
  .head {
    display: flex;
    gap: 10px;
    align-items: center;
    flex-wrap: wrap;
  }
  h1 {
    margin-right: auto;
  }
  section {
    display: grid;
    gap: 8px;
  }
  h2 {
    font-size: 15px;
    color: var(--ink);
  }
  .count {
    display: flex;
    gap: 16px;
    align-items: baseline;
    flex-wrap: wrap;
  }
</style>
