<script lang="ts">
  import { capital } from '../../core/capital.ts';
  import AndMore from '../parts/AndMore.svelte';
  import { replaceState } from '$app/navigation';
  import { page } from '$app/state';
  import { untrack } from 'svelte';
  import { groupBy } from '$lib/core/group-by.ts';
  import { bringsIn } from '$lib/core/trace/mass-balance.ts';
  import { isWay, transferOfWay } from '$lib/core/stock/way.ts';
  import { ORIGIN_KINDS, sayOrigin } from '$lib/core/trace/traced.ts';
  import { outlineOf } from '$lib/core/trace/outline.ts';
  import type { RiverNode } from '$lib/core/trace/river.ts';
  import { DrawnRiver } from './drawn-river.svelte.ts';
  import { quantity, totalOf } from '$lib/core/quantity/quantity.ts';
  import { goto } from '$app/navigation';
  import { daysBetween, daysLater } from '$lib/core/calendar/day.ts';
  import { sayDay, sayDayShort } from '$lib/core/calendar/say-day.ts';
  import { keys } from '$lib/ui/frame/keys.svelte.ts';
  import Tag from '$lib/ui/stock/Tag.svelte';
  import { count, dayOfInstant, sayAmount, sayInstant, sayQuantity } from '$lib/ui/parts/say.ts';
  import River, { type Chosen } from './River.svelte';
  import Working from '$lib/ui/parts/Working.svelte';

  import type { DrawnTraceData } from './drawn-trace.ts';
  import ClearedByTime from './ClearedByTime.svelte';
  import { narrower, proofOf, savedBy } from './narrower.svelte.ts';

  let { data }: { data: DrawnTraceData } = $props();
  const trace = $derived(data.trace);
  const root = $derived(trace.root);
  const byId = $derived(new Map(trace.marks.map((mark) => [mark.id, mark])));
  const eventById = $derived(new Map(trace.events.map((event) => [event.id, event])));
  const unitOf = (product: string) => data.products[product]?.unit ?? '';
  /** How much of a mark went somewhere, with its unit. */
  const amountAt = (end: { mark: number; quantity: string }): string =>
    sayAmount(end.quantity, unitOf(byId.get(end.mark)?.product ?? ''));
  const nameOf = (mark: { number: string | null; product: string }) =>
    mark.number ?? `${mark.product}, unmarked`;
  const many = $derived(trace.roots.length > 1);
  const title = $derived(data.setTitle ?? nameOf(root));

  let view = $state(untrack(() => data.view));
  let chosen = $state<Chosen>(null);
  let filter = $state('');
  let sort = $state<{ by: 'level' | 'product' | 'number' | 'onHand' | 'content'; down: boolean }>({
    by: 'level',
    down: false
  });
  let rowsShown = $state(300);

  /** All that ever came in of each mark, from the movements; and the event of its birth. */
  const births = $derived.by(() => {
    const totals = new Map<number, number>(),
      bornOf = new Map<number, number>();
    for (const event of trace.events) {
      if (!bringsIn(event.kind)) continue;
      // A count may find a thing at another place than it was kept at: that brings nothing in.
      for (const [mark, lines] of groupBy(event.lines, (line) => line.mark)) {
        const amount = lines
          .map((line) => Number(line.quantity))
          .filter((moved) => moved > 0 || event.kind === 'count')
          .reduce((sum, moved) => sum + moved, 0);
        if (amount <= 0) continue;
        totals.set(mark, (totals.get(mark) ?? 0) + amount);
        if (!bornOf.has(mark)) bornOf.set(mark, event.id);
      }
    }
    for (const { lot, serial } of trace.graph.members)
      totals.set(lot, (totals.get(lot) ?? 0) + (totals.get(serial) ?? 0));
    return { totals, bornOf };
  });
  let opened = $state.raw<ReadonlySet<string>>(new Set());
  const beyondMarks = $derived(new Set(data.beyond.marks));
  const beyondPartners = $derived(new Set(data.beyond.partners));
  const drawnMarks = $derived(
    beyondMarks.size === 0
      ? trace.marks
      : trace.marks.map((mark) => ({ ...mark, beyond: beyondMarks.has(mark.id) }))
  );
  const material = $derived({
    direction: trace.direction,
    roots: trace.roots.map((one) => one.id),
    marks: drawnMarks,
    graph: trace.graph,
    ends: trace.ends,
    totals: births.totals,
    bornOf: births.bornOf,
    opened
  });
  const drawn = new DrawnRiver();
  const EMPTY = { nodes: [], ribbons: [], columns: [], width: 0, height: 0 };
  const river = $derived(drawn.shown(material) ?? EMPTY);
  $effect(() => {
    const next = material;
    untrack(() => drawn.draw(next));
  });
  $effect(() => () => drawn.stop());
  const outline = $derived(outlineOf(trace.graph, root.id, trace.direction, 3000));

  // Only the part of the time line in view is there: a trace of ten thousand marks may have as many
  // events.
  const EVENT_WIDE = 104;
  let lineLeft = $state(0),
    lineWide = $state(1280);
  const line = $derived.by(() => {
    const from = Math.max(0, Math.floor(lineLeft / EVENT_WIDE) - 8);
    return {
      from,
      to: Math.min(trace.events.length, Math.ceil((lineLeft + lineWide) / EVENT_WIDE) + 8)
    };
  });

  const deepest = $derived(trace.marks.reduce((most, mark) => Math.max(most, mark.level), 0));
  const customers = $derived([...new Set(trace.ends.customers.map((end) => end.partner))]);
  /**
   * Balances of all roots together; where they are counted in different units only whether they
   * close.
   */
  const balance = $derived.by(() => {
    const sum = (pick: 'in' | 'onHand' | 'used' | 'shipped' | 'scrapped' | 'corrected') =>
      totalOf(trace.balances.map((one) => one[pick]));
    return {
      in: sum('in'),
      onHand: sum('onHand'),
      used: sum('used'),
      shipped: sum('shipped'),
      scrapped: sum('scrapped'),
      corrected: sum('corrected'),
      open: totalOf(trace.balances.map((one) => quantity(one.open).abs().toFixed()))
    };
  });
  const causes = $derived(
    trace.balances.flatMap((one) => one.causes.map((cause) => ({ cause, mark: one.mark })))
  );
  const unclosed = $derived(trace.balances.filter((one) => one.open !== '0'));
  const accounted = $derived.by(() => {
    const whole = quantity(balance.in).plus(balance.corrected);
    return whole.isZero()
      ? balance.open === '0'
        ? '100'
        : '0'
      : whole.minus(balance.open).div(whole).times(100).toDecimalPlaces(1, 1).toString();
  });
  // The slider goes over the days of the trace; letting it go asks anew, as it stood on that day.
  const firstDay = $derived(trace.events[0] ? dayOfInstant(trace.events[0].at) : data.today);
  let slid = $state<number | null>(null);
  const sliderAt = $derived(
    slid ??
      (data.until
        ? Math.max(0, daysBetween(firstDay, data.until.slice(0, 10)))
        : daysBetween(firstDay, data.today))
  );
  async function asOf(days: number): Promise<void> {
    const url = new URL(page.url);
    const day = daysLater(firstDay, days);
    if (day >= data.today) url.searchParams.delete('until');
    else url.searchParams.set('until', day);
    await goto(url, { keepFocus: true, noScroll: true });
    slid = null;
  }
  /** Kinds of event that tie marks together here: a trace may leave some out. */
  const kinds = $derived([
    ...new Set([
      ...trace.events
        .map((event) => event.kind)
        .filter((kind) => ['build', 'repack', 'teardown', 'identify'].includes(kind)),
      ...data.without.kinds
    ])
  ]);
  const perLevel = $derived(
    Array.from({ length: deepest }, (_, index) => {
      const level = trace.marks.filter((mark) => mark.level === index + 1);
      return `${level.length} ${[...new Set(level.map((mark) => mark.product))].slice(0, 3).join(', ')}`;
    })
  );

  /** `1 lot → 67 INF → 34 TN150 → 4 customers · 27 events · as it stands now` */
  const summary = $derived.by(() => {
    const arrow = trace.direction === 'downstream' ? ' → ' : ' ← ';
    const end =
      trace.direction === 'downstream'
        ? count(customers.length, 'customer')
        : count(new Set(trace.ends.suppliers.map((one) => one.partner)).size, 'supplier');
    return `${[many ? count(trace.roots.length, 'lot or serial', 'lots and serials') : `1 ${root.kind === 'bulk' ? 'product' : root.kind}`, ...perLevel, end].join(arrow)} · ${count(trace.events.length, 'event')} · ${data.until ? `as it stood at the end of ${sayDay(data.until.slice(0, 10))}` : 'as it stands now'}${data.from ? ` · from ${data.from}` : ''}${data.clocks === 'ignore' ? ' · beyond time' : ''}${data.without.products.length > 0 ? ` · not into ${data.without.products.join(', ')}` : ''}${data.without.kinds.length > 0 ? ` · not through ${data.without.kinds.join(', ')}` : ''}`;
  });

  function numbers(ids: readonly number[]): string {
    const names = ids
      .map((id) => byId.get(id)!)
      .map(nameOf)
      .sort();
    if (names.length === 1) return names[0]!;
    const first = names[0]!,
      last = names.at(-1)!;
    let same = 0;
    while (same < first.length && first[same] === last[same]) same++;
    return `${first}…${last.slice(Math.min(same, Math.max(0, last.length - 3)))}`;
  }

  /** What a lot is said to come to: how much of the root went into it; of a root, all of it. */
  function amountOf(mark: (typeof trace.marks)[number]): string {
    if (trace.direction === 'downstream' && mark.level > 0 && mark.content !== undefined)
      return `${sayQuantity(mark.content)} ${unitOf(root.product)} of it`;
    const total = births.totals.get(mark.id) ?? mark.onHand;
    return `${sayQuantity(String(total))} ${unitOf(mark.product)}`;
  }

  const isBeyond = (node: RiverNode): boolean =>
    node.marks.every((mark) => beyondMarks.has(mark)) ||
    (node.kind === 'customer' && beyondPartners.has(node.of));
  const origins = $derived([...groupBy(trace.ends.origins, (end) => sayOrigin(end.kind))]);
  /** Where it lies; of what is on a transfer, that it is on its way. */
  const sayLying = (place: string): string =>
    isWay(place) ? `On the way, ${transferOfWay(place)}` : `Here, ${place}`;
  const describe = (node: RiverNode) => ({ ...stoneOf(node), beyond: isBeyond(node) });

  function stoneOf(node: RiverNode) {
    const mark = byId.get(node.marks[0]!)!;
    if (node.kind === 'mark' || node.kind === 'bundle') {
      const under =
        node.kind === 'bundle'
          ? `${node.marks.length} ${node.of}`
          : mark.kind === 'serial'
            ? `${node.of} ${data.products[node.of]?.name ?? ''}`
            : `${node.of} · ${amountOf(mark)}`;
      return { title: numbers(node.marks), under, shape: mark.kind, state: mark.state };
    }
    const what = node.marks.length === 1 ? numbers(node.marks) : count(node.marks.length, 'mark');
    if (node.kind === 'here')
      return {
        title: sayLying(node.of),
        under:
          node.marks.length === 1
            ? `${sayQuantity(String(node.quantity))} ${unitOf(mark.product)} · ${what}`
            : what,
        shape: 'here' as const,
        state: ''
      };
    if (node.kind === 'scrapped')
      return { title: 'Scrapped', under: what, shape: 'end' as const, state: '' };
    return {
      title: data.partners[node.of] ?? node.of,
      under: `${what} · ${node.documents.length > 1 ? count(node.documents.length, 'document') : node.documents[0]}`,
      shape: 'end' as const,
      state: ''
    };
  }

  /** Whether an event brought marks to an end of the river, or from one. */
  function endsBy(
    { kind, of }: RiverNode,
    event: (typeof trace.events)[number],
    marks: ReadonlySet<number>
  ): boolean {
    if (kind === 'customer') return event.kind === 'ship' && event.partner === of;
    if (kind === 'supplier') return event.kind === 'receive' && event.partner === of;
    if (kind === 'origin') return ORIGIN_KINDS.has(event.kind) && sayOrigin(event.kind) === of;
    if (kind === 'scrapped') return event.kind === 'scrap';
    return event.lines.some((line) => line.place === of && marks.has(line.mark));
  }

  const picked = $derived.by(() => {
    if (!chosen) return null;
    if (chosen.kind === 'node') {
      const { key } = chosen;
      const node = river.nodes.find((one) => one.key === key);
      if (!node) return null;
      const inNode = new Set(node.marks);
      const isEnd = node.kind !== 'mark' && node.kind !== 'bundle';
      const events = trace.events.filter(
        (event) =>
          event.lines.some((line) => inNode.has(line.mark)) &&
          (!isEnd || endsBy(node, event, inNode))
      );
      return { heading: describe(node).title, marks: node.marks, events };
    }
    const { from, to } = chosen;
    const ribbon = river.ribbons.find((one) => one.from === from && one.to === to);
    const a = river.nodes.find((node) => node.key === from),
      b = river.nodes.find((node) => node.key === to);
    if (!ribbon || !a || !b) return null;
    const ends = new Set([...a.marks, ...b.marks]);
    const events =
      ribbon.events.length > 0
        ? ribbon.events.flatMap((id) => eventById.get(id) ?? [])
        : trace.events.filter(
            (event) =>
              endsBy(a.kind === 'supplier' || a.kind === 'origin' ? a : b, event, ends) &&
              event.lines.some((line) => ends.has(line.mark))
          );
    return {
      heading: `${describe(a).title} → ${describe(b).title}`,
      marks: b.kind === 'mark' || b.kind === 'bundle' ? b.marks : a.marks,
      events
    };
  });

  /** Where an event moved what is selected. */
  function placesOf(event: (typeof trace.events)[number]): string[] {
    const inIt = new Set(picked?.marks);
    return [
      ...new Set(
        event.lines
          .filter((line) => line.place !== null && inIt.has(line.mark))
          .map((line) => line.place!)
      )
    ].slice(0, 2);
  }

  const table = $derived.by(() => {
    const text = filter.trim().toUpperCase();
    const value = (mark: (typeof trace.marks)[number]) =>
      sort.by === 'number'
        ? nameOf(mark)
        : sort.by === 'product'
          ? mark.product
          : Number(
              sort.by === 'level'
                ? mark.level
                : sort.by === 'onHand'
                  ? mark.onHand
                  : (mark.content ?? 0)
            );
    return trace.marks
      .filter(
        (mark) =>
          !text ||
          `${mark.product} ${mark.number ?? ''} ${mark.lot ?? ''} ${mark.supplierNumber ?? ''} ${mark.state}`
            .toUpperCase()
            .includes(text)
      )
      .toSorted((a, b) => {
        const x = value(a),
          y = value(b);
        return (x < y ? -1 : x > y ? 1 : a.id - b.id) * (sort.down ? -1 : 1);
      });
  });
  const wentTo = $derived.by(() => {
    const map = new Map<number, string[]>();
    for (const end of trace.ends.customers)
      map.set(end.mark, [
        ...new Set([
          ...(map.get(end.mark) ?? []),
          `${data.partners[end.partner] ?? end.partner}, ${end.document}`
        ])
      ]);
    for (const end of trace.ends.onHand)
      map.set(end.mark, [...(map.get(end.mark) ?? []), `${amountAt(end)} at ${end.place}`]);
    for (const end of trace.ends.scrapped)
      map.set(end.mark, [...(map.get(end.mark) ?? []), `${amountAt(end)} scrapped`]);
    return map;
  });

  function show(next: typeof view): void {
    view = next;
    const url = new URL(page.url);
    url.searchParams.set('view', next);
    replaceState(url, {});
  }
  const sortBy = (by: typeof sort.by) => {
    sort = { by, down: sort.by === by ? !sort.down : by === 'onHand' || by === 'content' };
  };

  function saveTable(): void {
    const quote = (text: string) =>
      /[",\n]/.test(text)
        ? `"${text.replaceAll('"', '""')}"`
        : /^[=+\-@]/.test(text)
          ? `'${text}`
          : text;
    const lines = [
      [
        'level',
        'product',
        'kind',
        'number',
        'lot',
        'supplier number',
        'state',
        'on hand',
        'unit',
        'content',
        'where it is'
      ],
      ...table.map((mark) => [
        String(mark.level),
        mark.product,
        mark.kind,
        mark.number ?? '',
        mark.lot ?? '',
        mark.supplierNumber ?? '',
        mark.state,
        mark.onHand,
        unitOf(mark.product),
        mark.content ?? '',
        (wentTo.get(mark.id) ?? []).join('; ')
      ])
    ];
    const link = document.createElement('a');
    link.href = URL.createObjectURL(
      new Blob(['\ufeff' + lines.map((line) => line.map(quote).join(',')).join('\r\n')], {
        type: 'text/csv'
      })
    );
    link.download = `trace-${root.product}-${root.number ?? 'unmarked'}-${trace.direction}.csv`;
    link.click();
    URL.revokeObjectURL(link.href);
  }

  $effect(() => {
    keys.screen = [
      { key: '1', says: 'river', act: () => show('river') },
      { key: '2', says: 'outline', act: () => show('outline') },
      { key: '3', says: 'table', act: () => show('table') }
    ];
    return () => {
      keys.screen = [];
    };
  });
  const BALANCE = $derived([
    { says: 'came in or made', value: balance.in },
    { says: 'on hand', value: balance.onHand, good: true },
    { says: 'used in builds', value: balance.used },
    { says: 'shipped as such', value: balance.shipped },
    { says: 'scrapped', value: balance.scrapped },
    { says: 'corrected', value: balance.corrected }
  ]);
  /** How much of the root customers have; of a lot sent in parts nobody can say it from here. */
  const contentOut = $derived.by(() => {
    return trace.direction === 'upstream' ? null : contentOf(trace.ends.customers);
  });
  function contentOf(ends: typeof trace.ends.customers): string | null {
    // A unit that went out twice is in it once.
    const marks = [...new Set(ends.map((end) => end.mark))].map((id) => byId.get(id)!);
    if (marks.some((mark) => mark.kind !== 'serial' || mark.content === undefined)) return null;
    return totalOf(marks.map((mark) => mark.content!));
  }
</script>

<svelte:head><title>{title} · Trace · Earmark</title></svelte:head>
<Working>
  {#snippet sheet()}
    <div class="head">
      <div>
        <h1>
          {#if many}{title}: {count(
              trace.roots.length,
              'lot or serial',
              'lots and serials'
            )}{:else}<a class="number" href="/marks/{root.id}">{title}</a> · {data.products[
              root.product
            ]?.name}, {root.kind === 'bulk' ? 'kept by quantity' : root.kind}{/if}
        </h1>
        <p class="soft small">{summary}</p>
        <div class="views" role="tablist" aria-label="View">
          {#each ['river', 'outline', 'table'] as const as one (one)}<button
              role="tab"
              aria-selected={view === one}
              onclick={() => show(one)}>{capital(one)}</button
            >{/each}
        </div>
      </div>
      <div class="ways">
        <a
          class="act"
          class:main={trace.direction === 'upstream'}
          aria-current={trace.direction === 'upstream' ? 'true' : undefined}
          href="/trace/{data.at}?direction=upstream&view={view}">◂ Upstream</a
        >
        <a
          class="act"
          class:main={trace.direction === 'downstream'}
          aria-current={trace.direction === 'downstream' ? 'true' : undefined}
          href="/trace/{data.at}?direction=downstream&view={view}">Downstream ▸</a
        >
      </div>
    </div>

    {#if view === 'river'}
      {#if drawn.working}<p class="drawing small" role="status">
          Drawing {count(trace.marks.length, 'mark')} …
        </p>{/if}
      <River
        {river}
        root={root.id}
        {describe}
        {chosen}
        onopen={(key) => {
          opened = new Set(
            [...opened].includes(key) ? [...opened].filter((one) => one !== key) : [...opened, key]
          );
          chosen = null;
        }}
        onchoose={(next) =>
          (chosen = JSON.stringify(next) === JSON.stringify(chosen) ? null : next)}
      />
      <div class="slider">
        <label
          >As it stood on <input
            type="range"
            min="0"
            max={Math.max(1, daysBetween(firstDay, data.today))}
            value={sliderAt}
            oninput={(event) => (slid = Number(event.currentTarget.value))}
            onchange={(event) => asOf(Number(event.currentTarget.value))}
            aria-valuetext={sayDay(daysLater(firstDay, sliderAt))}
          /></label
        ><b
          >{daysLater(firstDay, sliderAt) >= data.today
            ? 'today'
            : sayDay(daysLater(firstDay, sliderAt))}</b
        >{#if data.until}<button
            class="act quiet"
            onclick={() => asOf(daysBetween(firstDay, data.today))}>back to now</button
          >{/if}
      </div>
      <div
        class="timeline"
        role="group"
        aria-label="Time line of every event"
        tabindex="-1"
        bind:clientWidth={lineWide}
        onscroll={(event) => (lineLeft = event.currentTarget.scrollLeft)}
      >
        <ol
          style:padding-left="{12 + line.from * EVENT_WIDE}px"
          style:padding-right="{12 + (trace.events.length - line.to) * EVENT_WIDE}px"
        >
          {#each trace.events.slice(line.from, line.to) as event (event.id)}
            <li class={event.kind} class:lit={picked?.events.some((one) => one.id === event.id)}>
              <a href="/events/{event.id}" title={sayInstant(event.at)}>
                <span class="small soft">{sayDayShort(dayOfInstant(event.at), data.today)}</span
                ><span class="dot" aria-hidden="true"></span><b>{event.kind}</b><span
                  class="number small">{event.document}</span
                ></a
              >
            </li>
          {/each}
        </ol>
      </div>
    {:else if view === 'outline'}
      <ul class="outline" data-list>
        {#each outline.rows as row, index (index)}
          {@const mark = byId.get(row.mark)!}
          <li style:padding-left="{row.depth * 26 + 12}px">
            <span class="depth visually-hidden">level {row.depth}:</span>
            <a href="/marks/{mark.id}" class="number" class:stop={mark.state !== 'usable'}
              ><b>{nameOf(mark)}</b></a
            >
            <span>{mark.product} {data.products[mark.product]?.name}</span>
            {#if mark.lot}<span class="small soft">lot {mark.lot}</span>{/if}
            {#if mark.supplierNumber}<span class="small soft">theirs {mark.supplierNumber}</span
              >{/if}
            {#if row.quantity}<span class="small soft"
                >{sayQuantity(row.quantity)}
                {unitOf(mark.product)}{row.event
                  ? ` · ${eventById.get(row.event)?.document ?? ''}`
                  : ''}</span
              >{/if}
            {#if mark.state !== 'usable'}<b class="small stop">{mark.state}</b>{/if}
            {#if row.again}<span class="small soft">shown above with what belongs to it</span>{/if}
            <span class="small where">{(wentTo.get(mark.id) ?? []).slice(0, 3).join(' · ')}</span>
          </li>
        {/each}
      </ul>
      {#if outline.cut}<p class="cut soft">
          The outline ends here at {count(outline.rows.length, 'row')}; the table has every mark.
        </p>{/if}
    {:else}
      <div class="tools">
        <input
          class="field"
          bind:value={filter}
          placeholder="Only what holds …"
          aria-label="Only marks that hold this text"
        /><span class="small soft"
          >{sayQuantity(String(table.length))} of {count(trace.marks.length, 'mark')}</span
        ><button class="act" onclick={saveTable}>Save as CSV</button>
      </div>
      <div class="scroll">
        <table class="plain">
          <thead
            ><tr>
              {#each [['level', 'Level'], ['product', 'Product'], ['number', 'Number']] as const as [by, label] (by)}<th
                  scope="col"
                  aria-sort={sort.by === by ? (sort.down ? 'descending' : 'ascending') : undefined}
                  ><button onclick={() => sortBy(by)}
                    >{label}{sort.by === by ? (sort.down ? ' ▾' : ' ▴') : ''}</button
                  ></th
                >{/each}
              <th scope="col">State</th>
              <th
                scope="col"
                class="right"
                aria-sort={sort.by === 'onHand'
                  ? sort.down
                    ? 'descending'
                    : 'ascending'
                  : undefined}
                ><button onclick={() => sortBy('onHand')}
                  >On hand{sort.by === 'onHand' ? (sort.down ? ' ▾' : ' ▴') : ''}</button
                ></th
              >
              {#if trace.direction === 'downstream'}<th
                  scope="col"
                  class="right"
                  aria-sort={sort.by === 'content'
                    ? sort.down
                      ? 'descending'
                      : 'ascending'
                    : undefined}
                  ><button onclick={() => sortBy('content')}
                    >Content{sort.by === 'content' ? (sort.down ? ' ▾' : ' ▴') : ''}</button
                  ></th
                >{/if}
              <th scope="col">Where it is</th>
            </tr></thead
          >
          <tbody>
            {#each table.slice(0, rowsShown) as mark (mark.id)}
              <tr
                ><td class="number">{mark.level}</td><td
                  ><b class="number">{mark.product}</b>
                  <span class="soft">{data.products[mark.product]?.name}</span></td
                >
                <td
                  ><a class="number" href="/marks/{mark.id}">{nameOf(mark)}</a>{#if mark.lot}<span
                      class="small soft"
                    >
                      lot {mark.lot}</span
                    >{/if}</td
                ><td class:stop={mark.state !== 'usable'}
                  >{mark.state === 'usable' ? '' : mark.state}</td
                >
                <td class="right"
                  ><span class="number">{sayQuantity(mark.onHand)}</span>
                  <span class="small soft">{unitOf(mark.product)}</span></td
                >
                {#if trace.direction === 'downstream'}<td class="right number"
                    >{#if mark.content === undefined}–{:else}{sayQuantity(mark.content)}
                      <span class="small soft">{unitOf(root.product)}</span>{/if}</td
                  >{/if}
                <td class="small">{(wentTo.get(mark.id) ?? []).join(' · ')}</td></tr
              >
            {/each}
          </tbody>
        </table>
        {#if table.length > rowsShown}<button class="act more" onclick={() => (rowsShown += 1000)}
            >Show {Math.min(1000, table.length - rowsShown)} more</button
          >{/if}
      </div>
    {/if}
  {/snippet}

  {#snippet margin()}
    <div class="aside">
      <section>
        <h2>
          Mass balance of {many
            ? `these ${trace.roots.length}`
            : root.kind === 'bulk'
              ? 'this product'
              : `this ${root.kind}`}
        </h2>
        <dl>
          {#each BALANCE as { says, value, good } (says)}<div>
              <dt>{says}</dt>
              <dd class="number" class:good={good && value !== '0'}>{sayQuantity(value)}</dd>
            </div>{/each}
          <div class="open">
            <dt>open</dt>
            <dd class="number" class:good={balance.open === '0'} class:stop={balance.open !== '0'}>
              {sayQuantity(balance.open)}
            </dd>
          </div>
        </dl>
        <p class="small soft">
          in {many && new Set(trace.roots.map((one) => unitOf(one.product))).size > 1
            ? 'units of each'
            : unitOf(root.product)}{balance.open === '0' ? '. It closes.' : '. It does not close.'}
        </p>
        {#each causes.slice(0, 6) as { cause, mark } (`${mark} ${cause}`)}<p class="small stop">
            {many ? `${nameOf(byId.get(mark)!)}: ` : ''}{cause}.
          </p>{/each}
        <AndMore shown={6} total={causes.length} />
        {#if many && unclosed.length > 0}<ul class="small">
            {#each unclosed.slice(0, 8) as one (one.mark)}<li>
                <a class="number" href="/marks/{one.mark}">{nameOf(byId.get(one.mark)!)}</a>
                {sayAmount(one.open, unitOf(byId.get(one.mark)!.product))} open
              </li>{/each}
          </ul>
          <AndMore shown={8} total={unclosed.length} />{/if}
      </section>
      <ClearedByTime
        marks={trace.cleared.marks}
        all={trace.cleared.marks.length}
        customers={trace.cleared.customers}
        clocks={data.clocks}
        direction={trace.direction}
        contentBy={trace.contentBy ?? null}
        products={data.products}
        partners={data.partners}
      />
      {#if picked}
        <section class="picked">
          <h2>Selected</h2>
          <p><b>{picked.heading}</b></p>
          {#if chosen?.kind === 'node' && chosen.key.startsWith('bundle ')}<button
              class="act quiet"
              onclick={() => {
                opened = new Set([...opened, (chosen as { key: string }).key]);
                chosen = null;
              }}>Open the bundle of {picked.marks.length}</button
            >{/if}
          <ul>
            {#each picked.events.slice(0, 6) as event (event.id)}<li>
                <a href="/events/{event.id}"
                  ><b>{event.kind}</b> <span class="number">{event.document}</span></a
                ><br /><span class="small soft"
                  >{[
                    `${sayInstant(event.at)}, ${event.by}`,
                    ...(event.partner ? [data.partners[event.partner] ?? event.partner] : []),
                    ...placesOf(event).map((place) => data.places[place] ?? place)
                  ].join(' · ')}</span
                >
              </li>{/each}
          </ul>
          {#if picked.events.length > 6}<p class="small soft">
              and {count(picked.events.length - 6, 'more event', 'more events')}
            </p>{/if}
          <div class="marks">
            {#each picked.marks.slice(0, 6) as id (id)}{@const mark = byId.get(id)!}<Tag
                kind={mark.kind}
                number={mark.number}
                under={mark.content && mark.content !== '0'
                  ? `holds ${sayQuantity(mark.content)} ${unitOf(root.product)}`
                  : mark.product}
                state={mark.state}
                href="/marks/{mark.id}"
              />{/each}
          </div>
          {#if picked.marks.length > 6}<p class="small soft">
              and {count(picked.marks.length - 6, 'more mark', 'more marks')}; the table has them
              all
            </p>{/if}
          {#if picked.marks.length === 1 && picked.marks[0] !== root.id}<p>
              <a href="/trace/{picked.marks[0]}?direction={trace.direction}">Trace on from here</a>
            </p>{/if}
        </section>
      {:else if view === 'river'}<p class="small soft">
          Choose a stone or a ribbon to see the events that prove it; open a bundle with a double
          click or <kbd>o</kbd>.
        </p>{/if}
      {#if opened.size > 0}<button class="act quiet" onclick={() => (opened = new Set())}
          >Fold {count(opened.size, 'opened bundle')}</button
        >{/if}
      {#if trace.marks.length > trace.roots.length || data.without.products.length > 0 || data.without.kinds.length > 0}<section
        >
          <h2>Not into</h2>
          <div class="skips">
            {#each [...new Set([...trace.marks
                  .filter((mark) => mark.level > 0)
                  .map((mark) => mark.product), ...data.without.products])].slice(0, 14) as product (product)}<button
                aria-pressed={data.without.products.includes(product)}
                onclick={() => narrower('without', data.without.products, product)}
                >{product}</button
              >{/each}
          </div>
          {#if kinds.length > 0}<h2 class="through">Not through</h2>
            <div class="skips">
              {#each kinds as kind (kind)}<button
                  aria-pressed={data.without.kinds.includes(kind)}
                  onclick={() => narrower('skip', data.without.kinds, kind)}>{kind}</button
                >{/each}
            </div>{/if}
        </section>{/if}
      {#if data.outside.length > 0}
        <section>
          <h2>Told by other firms <span>{data.outside.length}</span></h2>
          <ul class="ends">
            {#each data.outside.slice(0, 12) as event (event.id)}<li>
                <b>{event.bizStep?.replaceAll('_', ' ') ?? event.type}</b>
                <span class="outside">outside</span><br /><span class="small soft"
                  >{sayInstant(event.at)}{event.sender ? ` · ${event.sender}` : ''}{event.location
                    ? ` · ${event.location.split('/').slice(-2).join('/')}`
                    : ''}</span
                ><br /><span class="small"
                  >{#each event.names.slice(0, 5) as name, index (`${name.role} ${name.epc}`)}{index >
                    0
                      ? ', '
                      : ''}<span class="number" title={name.epc}
                      >{name.role === 'input'
                        ? '← '
                        : name.role === 'output'
                          ? '→ '
                          : ''}{decodeURIComponent(name.epc.split(/[/:]/).slice(-1)[0] ?? '')}</span
                    >{name.quantity
                      ? ` (${name.quantity}${name.uom ? ` ${name.uom}` : ''})`
                      : ''}{/each}{event.names.length > 5
                    ? ` and ${event.names.length - 5} more`
                    : ''}</span
                >
              </li>{/each}
          </ul>
          {#if data.outside.length > 12}<p class="small soft">
              and {data.outside.length - 12} more, all in the EPCIS file
            </p>{/if}
        </section>
      {/if}
      {#if trace.direction === 'downstream'}
        <section>
          <h2>Where it went</h2>
          <ul class="ends">
            {#each customers as code (code)}
              {@const ends = trace.ends.customers.filter((end) => end.partner === code)}
              {@const carried = contentOf(ends)}
              <li>
                <b>{data.partners[code] ?? code}</b><br /><span class="small soft"
                  >{count(new Set(ends.map((end) => end.mark)).size, 'mark')} · {carried === null
                    ? ''
                    : `${sayQuantity(carried)} ${unitOf(root.product)} of it · `}
                  <span class="number"
                    >{[...new Set(ends.map((end) => end.document))].join(', ')}</span
                  ></span
                >
              </li>
            {:else}<li class="soft small">No customer has it.</li>{/each}
          </ul>
          {#if customers.length > 0}<p class="small soft">
              {contentOut === null
                ? ''
                : `With customers: ${sayQuantity(contentOut)} ${unitOf(root.product)} of ${title}. `}Even
              mixing within each lot is assumed; what is followed per unit is exact.
            </p>{/if}
        </section>
      {:else}
        <section>
          <h2>Where it came from</h2>
          <ul class="ends">
            {#each [...new Set(trace.ends.suppliers.map((end) => end.partner))] as code (code)}
              {@const ends = trace.ends.suppliers.filter((end) => end.partner === code)}
              <li>
                <b>{data.partners[code] ?? code}</b><br /><span class="small soft"
                  >{[...new Set(ends.map((end) => byId.get(end.mark)!.product))].join(', ')} ·
                  <span class="number"
                    >{[...new Set(ends.map((end) => end.document))].slice(0, 3).join(', ')}{new Set(
                      ends.map((end) => end.document)
                    ).size > 3
                      ? ' …'
                      : ''}</span
                  ></span
                >
              </li>
            {/each}
            {#each origins as [what, ends] (what)}
              <li>
                <b>{what}</b><br /><span class="small soft"
                  >{count(new Set(ends.map((end) => end.mark)).size, 'mark')} ·
                  <span class="number"
                    >{[...new Set(ends.map((end) => end.document))].slice(0, 3).join(', ')}</span
                  ></span
                >
              </li>
            {/each}
            {#if trace.ends.suppliers.length + origins.length === 0}<li class="soft small">
                No supplier: nothing of it was received.
              </li>{/if}
          </ul>
        </section>
      {/if}
    </div>
  {/snippet}

  {#snippet tally()}
    <span class="figure"><b>{accounted} %</b> accounted for</span>
    {#if trace.direction === 'downstream'}
      <span class="figure"
        ><b>{customers.length}</b> {customers.length === 1 ? 'customer' : 'customers'}</span
      >
      <span class="figure"
        ><b>{sayQuantity(String(new Set(trace.ends.customers.map((end) => end.mark)).size))}</b> marks
        out</span
      >
      <span class="figure"
        ><b>{sayQuantity(String(new Set(trace.ends.onHand.map((end) => end.mark)).size))}</b> marks here</span
      >
    {:else}
      <span class="figure"
        ><b>{new Set(trace.ends.suppliers.map((end) => end.partner)).size}</b> suppliers</span
      >
      <span class="figure"><b>{deepest}</b> {deepest === 1 ? 'level' : 'levels'}</span>
      <span class="figure"><b>{trace.marks.length - 1}</b> marks in it</span>
    {/if}
    <span class="end"
      >{#if data.mayRecall && trace.direction === 'downstream'}<a
          class="act danger"
          href="/recall/new?{many ? `set=${data.at.slice(1)}` : `mark=${root.id}`}">Recall …</a
        >{/if}
      <details class="save">
        <summary class="act">Save as</summary><span
          ><button class="act quiet" onclick={saveTable}>CSV of the table</button
          >{#each ['xlsx', 'json', 'epcis'] as format (format)}<a
              class="act quiet"
              href="/api/v1/trace-files/{data.at}?{savedBy(
                { ...data, direction: trace.direction },
                format
              )}">{format === 'xlsx' ? 'workbook' : format === 'json' ? 'JSON' : 'EPCIS 2.0'}</a
            >{/each}{#if data.mayProve}<a
              class="act quiet"
              href={proofOf(data.at, { ...data, direction: trace.direction })}>proof</a
            >{/if}</span
        >
      </details></span
    >
  {/snippet}
</Working>

<style>
  .head {
    display: flex;
    justify-content: space-between;
    gap: 16px;
    padding: 12px 18px 0;
    border-bottom: 1px solid var(--line);
  }
  h1 a {
    color: var(--ink);
    text-decoration: none;
  }
  h1 a:hover {
    text-decoration: underline;
  }
  .head p {
    margin-top: 2px;
  }
  .ways {
    display: flex;
    gap: 8px;
    flex: none;
    align-items: start;
  }
  .views {
    display: flex;
    gap: 2px;
    margin-top: 6px;
  }
  .views button {
    border: 0;
    background: none;
    padding: 7px 12px;
    cursor: pointer;
    border-bottom: 3px solid transparent;
    color: var(--ink-soft);
  }
  .views button[aria-selected='true'] {
    border-bottom-color: var(--brass);
    color: var(--ink);
    font-weight: 600;
  }
  .timeline {
    flex: none;
    overflow-x: auto;
    border-top: 1px solid var(--line);
    background: var(--panel);
  }
  .timeline ol {
    display: flex;
    width: max-content;
    padding-block: 8px;
  }
  .timeline li {
    position: relative;
    flex: 0 0 104px;
    min-width: 0;
  }
  .timeline .number {
    max-width: 92px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .timeline a {
    display: grid;
    justify-items: center;
    gap: 1px;
    padding: 2px 6px;
    color: var(--ink);
    text-decoration: none;
    font-size: 13px;
  }
  .timeline a:hover b {
    text-decoration: underline;
  }
  .timeline .dot {
    width: 11px;
    height: 11px;
    border-radius: 50%;
    background: var(--brass);
    margin: 3px 0;
    z-index: 1;
  }
  .timeline li::before {
    content: '';
    position: absolute;
    left: 0;
    right: 0;
    top: 30px;
    border-top: 2px solid var(--line-strong);
  }
  .timeline li:first-child::before {
    left: 50%;
  }
  .timeline li:last-child::before {
    right: 50%;
  }
  .timeline .hold .dot,
  .timeline .reject .dot,
  .timeline .scrap .dot,
  .timeline .loss .dot {
    background: var(--rust);
  }
  .timeline .ship .dot {
    background: var(--sea);
  }
  .timeline .lit {
    background: var(--brass-pale);
  }
  .outline li {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 12px;
    align-items: baseline;
    padding: 5px 18px 5px 12px;
    border-bottom: 1px solid #ebe5da;
  }
  .where {
    margin-left: auto;
    color: var(--sea);
  }
  .cut {
    padding: 14px 18px;
  }
  .tools {
    display: flex;
    gap: 14px;
    align-items: center;
    padding: 10px 18px;
  }
  .tools .act {
    margin-left: auto;
  }
  .scroll {
    flex: 1;
    overflow: auto;
  }
  th button {
    border: 0;
    background: none;
    font: inherit;
    color: inherit;
    cursor: pointer;
    padding: 0;
  }
  .more {
    margin: 14px 18px;
  }
  .aside {
    display: grid;
    gap: 18px;
  }
  dl div {
    display: flex;
    justify-content: space-between;
    padding: 5px 0;
    border-bottom: 1px solid var(--line);
  }
  dd {
    font-size: 16px;
  }
  dl .open {
    border-bottom-width: 2px;
  }
  .open dd {
    font-weight: 600;
  }
  .picked {
    border-left: 3px solid var(--brass);
    padding-left: 12px;
    display: grid;
    gap: 6px;
  }
  .picked li {
    padding: 3px 0;
  }
  .marks {
    display: grid;
    gap: 6px;
  }
  .ends li {
    padding: 5px 0;
    border-bottom: 1px solid #e6dfd1;
  }
  .figure {
    font-size: 14px;
    color: var(--ink-soft);
  }
  .figure b {
    font-size: 23px;
    color: var(--ink);
    margin-right: 3px;
  }
  .end {
    margin-left: auto;
    display: inline-flex;
    gap: 10px;
    align-items: center;
  }
  .save {
    position: relative;
  }
  .save summary {
    list-style: none;
  }
  .save > span {
    position: absolute;
    right: 0;
    bottom: 46px;
    background: var(--panel);
    border: 1px solid var(--line-strong);
    display: grid;
    justify-items: start;
    padding: 6px;
    z-index: 6;
  }
  .slider {
    display: flex;
    gap: 12px;
    align-items: center;
    padding: 6px 16px 0;
    font-size: 13px;
    border-top: 1px solid var(--line);
  }
  .slider label {
    display: flex;
    gap: 10px;
    align-items: center;
    flex: 1;
    max-width: 640px;
    color: var(--ink-soft);
  }
  .slider input {
    flex: 1;
    accent-color: var(--brass);
  }
  .outside {
    background: var(--slate-pale);
    padding: 0 6px;
    font-size: 12px;
  }
  .drawing {
    padding: 6px 18px;
    color: var(--ink-soft);
  }
  .through {
    margin-top: 10px;
  }
  .skips {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
  }
  .skips button {
    border: 1px solid var(--line-strong);
    background: var(--panel);
    padding: 2px 8px;
    cursor: pointer;
    font-size: 13px;
  }
  .skips [aria-pressed='true'] {
    text-decoration: line-through;
    color: var(--ink-soft);
    background: var(--paper-deep);
  }
  @media (max-width: 700px) {
    .head {
      flex-direction: column;
    }
    .ways {
      padding-bottom: 10px;
    }
  }
</style>
