<script lang="ts">
  import { daysBetween } from '$lib/core/calendar/day.ts';
  import { sayDay, sayDayShort, sayDistance } from '$lib/core/calendar/say-day.ts';
  import AndMore from '$lib/ui/parts/AndMore.svelte';
  import FirstRun from '$lib/ui/frame/FirstRun.svelte';
  import Live from '$lib/ui/frame/Live.svelte';
  import TourOffer from '$lib/ui/frame/TourOffer.svelte';
  import { sayToGo } from '$lib/ui/orders/say-to-go.ts';
  import Troubles from '$lib/ui/frame/Troubles.svelte';
  import Tag from '$lib/ui/stock/Tag.svelte';
  import Trend from '$lib/ui/parts/Trend.svelte';
  import { count, dayOfInstant, sayQuantity, sayTime } from '$lib/ui/parts/say.ts';

  let { data } = $props();
  const screens = $derived(
    [
      {
        name: 'Receive',
        base: '/receive',
        orders: data.receive,
        mine: data.mine.receive,
        none: 'Nothing is expected. A purchase order waits here until its goods are in.'
      },
      {
        name: 'Build',
        base: '/build',
        orders: data.build,
        mine: data.mine.build,
        none: 'Nothing to build. A work order waits here until it is done.'
      },
      {
        name: 'Ship',
        base: '/ship',
        orders: data.ship,
        mine: data.mine.ship,
        none: 'Nothing to ship. A sales order waits here until it has left.'
      }
    ].sort((a, b) => Number(b.mine) - Number(a.mine))
  );
  const late = $derived(data.receive.late + data.build.late + data.ship.late);
  const dueToday = $derived(data.receive.dueToday + data.build.dueToday + data.ship.dueToday);
  const when = (due: string) => {
    const days = daysBetween(data.today, due);
    return days < 0
      ? `${count(-days, 'day')} late`
      : days === 0
        ? 'today'
        : days === 1
          ? 'tomorrow'
          : sayDayShort(due, data.today);
  };
  const hrefOf = (sheet: string) => {
    if (sheet === 'opening' || sheet === 'move') return `/${sheet}`;
    if (sheet.startsWith('put-away'))
      return `/put-away${sheet.includes(' ') ? `?event=${sheet.split(' ')[1]}` : ''}`;
    if (sheet.startsWith('identify '))
      return `/identify?product=${encodeURIComponent(sheet.split('-').slice(2).join('-'))}`;
    const [screen, ...number] = sheet.split(' ');
    return `/${screen}/${encodeURIComponent(number.join(' '))}`;
  };
</script>

<svelte:head><title>Today · Earmark</title></svelte:head>
<Live of={['ledger', 'orders', 'service']} />
<div class="today">
  <div class="head">
    <TourOffer lot={data.tourLot} login={data.actor?.login ?? ''}
      ><h1>Today, {sayDay(data.today)}</h1></TourOffer
    >
    <p class="soft">
      <b class:stop={late > 0}>{late} late</b> · <b>{dueToday} due today</b> · {data.held.total} held
      · {data.expiring.total} expiring within 30 days{#if data.unnumbered.total > 0}&nbsp;· <b
          class="stop">{data.unnumbered.total} without number</b
        >{/if}{#if data.atDock > 0}&nbsp;· <a href="/put-away"
          >{data.atDock} at the dock to put away</a
        >{/if}
    </p>
  </div>
  <Troubles troubles={data.troubles} />
  {#if data.firstRun}<FirstRun steps={data.firstRun} />{/if}
  <div class="waits">
    {#each screens as screen (screen.name)}
      <section class:mine={screen.mine}>
        <h2><a href={screen.base}>{screen.name}</a><span>{screen.orders.total}</span></h2>
        <ul data-list>
          {#each screen.orders.rows.slice(0, 6) as order (order.number)}
            <li>
              <a href="{screen.base}/{encodeURIComponent(order.number)}">
                <span class="row"
                  ><b class="number">{order.number}</b><span
                    class="when"
                    class:late={order.due < data.today}>{when(order.due)}</span
                  ></span
                >
                <span class="row soft small"
                  ><span>{order.partnerName ? `${order.partnerName}` : order.products}</span><span
                    >{sayToGo(order)}</span
                  ></span
                >
                <span class="bar" aria-hidden="true"
                  ><span style:width="{Math.round(order.part * 100)}%"></span></span
                >
              </a>
            </li>
          {:else}<li class="none">{screen.none}</li>{/each}
        </ul>
        {#if screen.orders.total > 6}<a class="more" href={screen.base}
            >and {screen.orders.total - 6} more</a
          >{/if}
      </section>
    {/each}
  </div>
  <div class="below">
    <section>
      {#if data.unnumbered.total > 0}
        <h2>Loose ends: without number <span>{data.unnumbered.total}</span></h2>
        <ul class="owed">
          {#each data.unnumbered.rows.slice(0, 6) as row (`${row.mark} ${row.place}`)}<li>
              <a href="/identify?product={encodeURIComponent(row.product)}"
                ><b class="number">{sayQuantity(row.quantity)}</b>
                {row.unit} <span class="number">{row.product}</span>
                {row.name}{row.lot ? `, lot ${row.lot}` : ''}</a
              ><span class="small soft">{row.placeName} · {sayDistance(row.since, data.today)}</span
              >
            </li>{/each}
        </ul>
        <AndMore shown={6} total={data.unnumbered.total} />
      {/if}
      {#if data.gaps.total > 0}
        <h2>Loose ends: built without a part <span>{data.gaps.total}</span></h2>
        <ul class="owed">
          {#each data.gaps.rows.slice(0, 6) as row (`${row.mark} ${row.component}`)}<li>
              <a href="/marks/{row.mark}/as-built"
                ><b class="number">{row.number ?? row.product}</b> lacks
                <b class="number">{row.component}</b></a
              ><span class="small soft"
                >{row.product} · {row.document}, {sayDistance(row.since, data.today)}{row.onHand
                  ? ''
                  : ' · gone on'}</span
              >
            </li>{/each}
        </ul>
        <AndMore shown={6} total={data.gaps.total} />
      {/if}
      {#if data.serialsLater.length > 0}
        <h2>
          Loose ends: serials to be named before they leave <span>{data.serialsLater.length}</span>
        </h2>
        <ul class="owed">
          {#each data.serialsLater.slice(0, 6) as row (`${row.order} ${row.product}`)}<li>
              <a href="/ship/{encodeURIComponent(row.order)}/choose"
                ><b class="number">{row.order}</b> lacks {sayQuantity(row.missing)} of
                <span class="number">{row.product}</span></a
              ><span class="small soft"
                >{row.partner ?? ''} · due {sayDistance(row.due, data.today)}</span
              >
            </li>{/each}
        </ul>
        <AndMore shown={6} total={data.serialsLater.length} />
      {/if}
      <h2>Held, waiting for a decision <span>{data.held.total}</span></h2>
      <ul class="tags">
        {#each data.held.rows as mark (mark.id)}
          <li>
            <Tag
              kind={mark.kind}
              number={mark.number}
              under="{mark.product} · {sayQuantity(mark.onHand)} {mark.unit}"
              state="held"
              href="/marks/{mark.id}"
            />
            <p class="small soft">
              <b>{sayDistance(mark.since, data.today)}</b>
              {mark.reason ?? ''}
            </p>
          </li>
        {:else}<li class="none">
            Nothing is held. What quality stops stands here until it is released or rejected.
          </li>{/each}
      </ul>
      {#if data.held.total > data.held.rows.length}<a class="more" href="/quality"
          >and {data.held.total - data.held.rows.length} more held</a
        >{/if}
    </section>
    <section>
      <h2>Expires within 30 days, on hand <span>{data.expiring.total}</span></h2>
      <ul class="tags">
        {#each data.expiring.rows as mark (mark.id)}
          <li>
            <Tag
              kind={mark.kind}
              number={mark.number}
              under="{mark.product} · {sayQuantity(mark.onHand)} {mark.unit}"
              href="/marks/{mark.id}"
            />
            <p class="small soft">
              <b class:stop={mark.expires < data.today}
                >{mark.expires < data.today ? 'expired ' : ''}{sayDistance(
                  mark.expires,
                  data.today
                )}</b
              ><br />{sayDay(mark.expires)}
            </p>
          </li>
        {:else}<li class="none">Nothing on hand expires soon.</li>{/each}
      </ul>
      {#if data.expiring.total > data.expiring.rows.length}<p class="small soft">
          and {data.expiring.total - data.expiring.rows.length} more; these expire first
        </p>{/if}
      <h2><a href="/loose-ends">Loose ends over time</a></h2>
      <Trend points={data.trend} />
      {#if data.drafts.length > 0}
        <h2>Your drafts</h2>
        <ul>
          {#each data.drafts as draft (draft.sheet)}<li class="draft">
              <a class="number" href={hrefOf(draft.sheet)}>{draft.sheet}</a>
              <span class="small soft">kept {sayTime(draft.keptAt)}</span>
            </li>{/each}
        </ul>
      {/if}
    </section>
    <section>
      <h2>Lately booked</h2>
      <ul>
        {#each data.lately as event (event.id)}
          <li class="event">
            <a href="/events/{event.id}"
              ><b>{event.kind}</b> <span class="number">{event.document}</span></a
            ><span class="small soft"
              >{sayDayShort(dayOfInstant(event.at), data.today)}
              {sayTime(event.at)} · {event.partner ?? event.who} · {count(
                event.marks,
                'mark'
              )}</span
            >
          </li>
        {:else}<li class="none">
            Nothing has been booked yet. What is booked stands here, latest first.
          </li>{/each}
      </ul>
    </section>
  </div>
</div>

<style>
  .today {
    padding: 18px 24px 32px;
    display: grid;
    gap: 18px;
    background: var(--panel);
    min-height: 100%;
    align-content: start;
  }
  .head {
    display: flex;
    justify-content: space-between;
    align-items: baseline;
    flex-wrap: wrap;
    gap: 4px 20px;
  }
  .waits,
  .below {
    display: grid;
    grid-template-columns: repeat(3, minmax(0, 1fr));
    gap: 18px;
  }
  .waits section {
    border: 1px solid var(--line);
    background: var(--paper);
  }
  .waits section.mine {
    border-top: 3px solid var(--brass);
  }
  section h2 {
    display: flex;
    justify-content: space-between;
    align-items: baseline;
    font-size: 14px;
    padding: 10px 14px 8px;
  }
  .waits h2 {
    font-size: 16px;
  }
  .waits h2 a {
    color: var(--ink);
    text-decoration: none;
  }
  .waits h2 a:hover {
    text-decoration: underline;
  }
  .owed {
    display: grid;
    gap: 8px;
    margin-bottom: 16px;
  }
  .owed li {
    display: grid;
    gap: 1px;
  }
  .below h2 {
    padding: 4px 0 8px;
    border-bottom: 1px solid var(--line);
    margin-bottom: 8px;
  }
  .waits li a {
    display: grid;
    gap: 2px;
    padding: 9px 14px 10px;
    border-top: 1px solid var(--line);
    color: var(--ink);
    text-decoration: none;
  }
  .waits li a:hover {
    background: var(--panel);
  }
  .row {
    display: flex;
    justify-content: space-between;
    gap: 10px;
  }
  .row > span:first-child {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .row > span + span {
    flex: none;
  }
  .when {
    font-size: 13px;
    color: var(--ink-soft);
  }
  .when.late {
    color: var(--rust);
    font-weight: 600;
  }
  .bar {
    height: 3px;
    background: #e6dfd1;
    margin-top: 4px;
    display: block;
  }
  .bar span {
    display: block;
    height: 100%;
    background: var(--sea);
  }
  .none {
    padding: 10px 14px 16px;
    color: var(--ink-soft);
    font-size: 14px;
  }
  .below .none {
    padding-inline: 0;
  }
  .more {
    display: block;
    padding: 8px 14px;
    font-size: 13px;
    border-top: 1px solid var(--line);
  }
  .tags {
    display: grid;
    gap: 10px;
  }
  .tags li {
    display: grid;
    grid-template-columns: 204px minmax(0, 1fr);
    gap: 10px;
    align-items: center;
  }
  .tags li.none {
    display: block;
  }
  .event {
    display: grid;
    padding: 5px 0;
    border-bottom: 1px solid #ebe5da;
  }
  .event a {
    color: var(--ink);
    text-decoration: none;
  }
  .event a:hover {
    text-decoration: underline;
  }
  .draft {
    padding: 4px 0;
  }
  @media (max-width: 900px) {
    .waits,
    .below {
      grid-template-columns: minmax(0, 1fr);
    }
    .today {
      padding: 14px;
    }
  }
</style>
