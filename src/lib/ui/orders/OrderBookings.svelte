<!-- Everything that was booked against an order, the latest first, with its lots and papers. -->
<script lang="ts">
  import { sayDay } from '../../core/calendar/say-day.ts';
  import Cut from '../parts/Cut.svelte';
  import { dayOfInstant } from '../parts/say.ts';
  import type { Booked } from './booking-against.ts';

  let { order }: { order: Booked } = $props();
  const events = $derived(order.events ?? []);

  const NOTES: Record<string, [path: string, says: string]> = {
    ship: ['delivery-note', 'Delivery note'],
    receive: ['goods-received-note', 'Goods received note']
  };
</script>

{#if events.length > 0}
  <section>
    <h2>Booked against it</h2>
    {#if order.kind === 'purchase' && order.partner}<p class="small">
        <a
          href="/api/v1/orders/purchase/{encodeURIComponent(order.number)}/confirmation"
          target="_blank"
          rel="noopener">Confirmation for {order.partnerName}</a
        >: ordered beside received
      </p>{/if}
    <ol>
      {#each events as event (event.id)}
        {@const note = NOTES[event.kind]}
        <li class:back={event.takenBack}>
          <a href="/events/{event.id}"
            ><b>{event.kind}</b>
            <span class="number">{event.paper}</span></a
          >
          <span class="small soft"
            >{sayDay(dayOfInstant(event.at))}, {event.who}{event.reference
              ? ` · ${event.reference}`
              : ''}{event.takenBack ? ' · taken back' : ''}</span
          >
          {#if event.marks > 0}<span class="small marks"
              >{#each event.first as mark (mark.id)}<a class="number" href="/marks/{mark.id}"
                  >{mark.number ?? mark.product}</a
                >{/each}{#if event.marks > event.first.length}<span class="soft"
                  >and {event.marks - event.first.length} more</span
                >{/if}</span
            >{/if}
          {#if note || event.certificates.length > 0}<span class="small marks"
              >{#if note}<a
                  href="/api/v1/events/{event.id}/{note[0]}"
                  target="_blank"
                  rel="noopener">{note[1]}</a
                >{/if}{#each event.certificates as number (number)}<a
                  href="/api/v1/certificates/{number}"
                  target="_blank"
                  rel="noopener">Certificate {number}</a
                >{/each}</span
            >{/if}
        </li>
      {/each}
    </ol>
    <Cut shown={events.length} total={order.eventCount ?? 0} of="events" rest="the latest" />
  </section>
{/if}

<style>
  li {
    display: grid;
    gap: 2px;
    padding: 6px 0;
    border-bottom: 1px solid var(--line);
    font-size: 14px;
  }
  .marks {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 8px;
  }
  .back b {
    text-decoration: line-through;
  }
</style>
