<!-- What the clocks cleared: made, or gone, before any of it came. Never dropped without a word. -->
<script lang="ts">
  import { page } from '$app/state';
  import type { MarkRecord } from '$lib/core/ledger/mark-record.ts';
  import type { PartnerEnd } from '$lib/core/trace/trace.ts';
  import { count, sayQuantity } from '$lib/ui/parts/say.ts';

  interface Props {
    marks: readonly MarkRecord[];
    /** How many there are, should not all be given. */
    all: number;
    customers: readonly PartnerEnd[];
    clocks: 'obey' | 'ignore';
    direction: 'upstream' | 'downstream';
    contentBy: 'happened' | 'booked' | null;
    products: Record<string, { name: string; unit: string }>;
    partners: Record<string, string>;
  }
  let { marks, all, customers, clocks, direction, contentBy, products, partners }: Props = $props();
  const LISTED = 5;
  let listed = $state(LISTED);
  const down = $derived(direction === 'downstream');
  const numbers = $derived(new Map(marks.map((mark) => [mark.id, mark.number])));
  const firms = $derived([...new Set(customers.map((end) => end.partner))]);

  /** The same trace with the clocks obeyed, or not. */
  const other = $derived.by(() => {
    const url = new URL(page.url);
    if (clocks === 'ignore') url.searchParams.delete('clocks');
    else url.searchParams.set('clocks', 'ignore');
    return url.pathname + url.search;
  });
  const said = $derived(
    `${count(all, 'lot or serial', 'lots and serials')}${firms.length > 0 ? ` and ${count(firms.length, 'customer')}` : ''} cleared by time`
  );
</script>

{#if clocks === 'ignore'}
  <section>
    <h2>Beyond time</h2>
    <p class="small">
      The clocks are ignored: this is all that is tied together, also what was made or left before
      any of it came; what time would clear is drawn dashed. <a href={other}>Obey the clocks</a>
    </p>
  </section>
{:else if all > 0 || firms.length > 0}
  <section>
    <h2>Cleared</h2>
    <p class="small">
      <b>{said}</b>: {down
        ? 'made, or gone, before any of it came'
        : 'put in, or taken out, at another time'}.
    </p>
    <ul class="small">
      {#each marks.slice(0, listed) as mark (mark.id)}<li>
          <a class="number" href="/marks/{mark.id}">{mark.number ?? 'unmarked'}</a>
          <span class="soft">{mark.product} {products[mark.product]?.name ?? ''}</span>
        </li>{/each}
    </ul>
    {#if all > listed}<p class="small soft">
        and {count(all - Math.min(listed, marks.length), 'more', 'more')}{all > marks.length
          ? '; the file has them all'
          : ''}
        {#if marks.length > listed}<button class="act quiet" onclick={() => (listed += 100)}
            >Show more</button
          >{/if}
      </p>{/if}
    {#if customers.length > 0}<ul class="small">
        {#each customers.slice(0, LISTED) as end (`${end.event} ${end.mark}`)}<li>
            {partners[end.partner] ?? end.partner}
            <span class="soft"
              >{numbers.get(end.mark) ?? 'one of them'}, {sayQuantity(end.quantity)},
              <span class="number">{end.document}</span></span
            >
          </li>{/each}
      </ul>
      {#if customers.length > LISTED}<p class="small soft">
          and {count(customers.length - LISTED, 'more shipment', 'more shipments')}; the file has
          them all
        </p>{/if}{/if}
    <p class="small"><a href={other}>Look beyond time</a></p>
  </section>
{/if}
{#if contentBy === 'booked'}<p class="small soft">
    Dates of some bookings would take out what was not there yet; content is carried in the order of
    booking.
  </p>{/if}

<style>
  ul {
    margin: 0.35rem 0;
    padding: 0;
    list-style: none;
  }
  li {
    padding: 0.15rem 0;
  }
</style>
