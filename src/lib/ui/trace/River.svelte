<!-- The trace drawn as a river. Every stone and ribbon can be reached by keyboard and says what it is. -->
<script lang="ts">
  import { linkHorizontal } from 'd3-shape';
  import { tick, untrack } from 'svelte';
  import { NODE, type RibbonPath, type River, type RiverNode } from '../../core/trace/river.ts';
  import { count } from '../parts/say.ts';
  import { short } from './short.ts';

  export type Chosen =
    { kind: 'node'; key: string } | { kind: 'ribbon'; from: string; to: string } | null;
  interface Props {
    river: River;
    root: number;
    describe: (node: RiverNode) => {
      title: string;
      under: string;
      shape: 'lot' | 'serial' | 'bulk' | 'end' | 'here';
      state: string;
      /** Reached only because the clocks are ignored. */
      beyond: boolean;
    };
    chosen: Chosen;
    onchoose: (chosen: Chosen) => void;
    /** A bundle is to be opened, or folded again. */
    onopen?: (key: string) => void;
  }
  let { river, root, describe, chosen, onchoose, onopen }: Props = $props();

  let zoom = $state(1);
  let box: HTMLDivElement;
  let wide = $state(900);
  let tall = $state(500);
  const PAD = 16,
    HEAD = 28,
    LEADING_OUT = 120;
  const link = linkHorizontal<[[number, number], [number, number]], [number, number]>()
    .source(([from]) => from)
    .target(([, to]) => to);
  /** A curve from stop to stop, level through each lane. */
  function path({ x1, y1, x2, y2, via }: RibbonPath): string {
    const stops: [number, number][] = [
      [x1, y1],
      ...via.flatMap(({ x, y }): [number, number][] => [
        [x, y],
        [x + NODE.width, y]
      ]),
      [x2, y2]
    ];
    return Array.from({ length: stops.length / 2 }, (_, leg) =>
      link([stops[2 * leg]!, stops[2 * leg + 1]!])!
    )
      .join('')
      .replace(/(?!^)M/g, 'L');
  }
  const fit = $derived(Math.min(1, (wide - 4) / (river.width + 2 * PAD)));
  const scale = $derived(Math.max(0.45, fit) * zoom);

  /** Everything joined with what is chosen, both ways, stays bright. */
  const joined = $derived.by(() => {
    if (!chosen) return null;
    const keys = new Set(chosen.kind === 'node' ? [chosen.key] : [chosen.from, chosen.to]);
    const spread = (from: string[], side: 'from' | 'to', other: 'from' | 'to') => {
      const open = [...from];
      for (let key = open.pop(); key !== undefined; key = open.pop())
        for (const ribbon of river.ribbons)
          if (ribbon[side] === key && !keys.has(ribbon[other])) {
            keys.add(ribbon[other]);
            open.push(ribbon[other]);
          }
    };
    spread(chosen.kind === 'node' ? [chosen.key] : [chosen.to], 'from', 'to');
    spread(chosen.kind === 'node' ? [chosen.key] : [chosen.from], 'to', 'from');
    return keys;
  });

  function shape(kind: string): string {
    const { width: w, height: h } = NODE;
    if (kind === 'end' || kind === 'here') return `M0 0H${w}V${h}H0Z`;
    const right =
      kind === 'serial'
        ? Array.from({ length: 7 }, (_, i) => `L${w - (i % 2 ? 0 : 4)} ${((i + 1) * h) / 8}`).join(
            ''
          ) + `L${w - 4} ${h}`
        : `L${w} ${h}`;
    return `M8 0L${kind === 'serial' ? w - 4 : w} 0${right}L8 ${h}L0 ${h - 8}L0 8Z`;
  }
  const beyond = $derived(
    new Set(river.nodes.flatMap((node) => (describe(node).beyond ? node.key : [])))
  );
  const STOPS: Record<string, string> = { held: ' · HELD', rejected: ' · REJECTED' };
  function underOf(said: { under: string; shape: string; state: string }): string {
    const stop = STOPS[said.state] ?? '';
    const room = said.shape === 'lot' ? 26 : 28;
    return short(said.under, room - stop.length) + stop;
  }
  // Only what is in view is drawn, and a little beyond: ten thousand stones would be a page of
  // their own.
  let top = $state(0),
    left = $state(0);
  const shift = $derived(
    HEAD + Math.max(0, ((tall - 6) / scale - river.height - HEAD - 2 * PAD) / 2.6) + PAD
  );
  const view = $derived({
    from: (top - 300) / scale - shift,
    to: (top + tall + 300) / scale - shift,
    left: (left - 400) / scale - PAD,
    right: (left + wide + 400) / scale - PAD
  });
  const nodes = $derived(
    river.nodes.length <= 300
      ? river.nodes
      : river.nodes.filter(
          (node) =>
            node.y + NODE.height >= view.from &&
            node.y <= view.to &&
            node.x + NODE.width >= view.left &&
            node.x <= view.right
        )
  );
  /**
   * Ribbons in view are drawn; of those that only lead out of it a sample, as thousands of hair
   * lines are one grey.
   */
  const ribbons = $derived.by(() => {
    if (river.ribbons.length <= 600) return river.ribbons;
    const shown = new Set(nodes.map((node) => node.key));
    const whole: typeof river.ribbons = [],
      half: typeof river.ribbons = [];
    for (const ribbon of river.ribbons) {
      const from = shown.has(ribbon.from),
        to = shown.has(ribbon.to);
      if (from && to) whole.push(ribbon);
      else if (from || to) half.push(ribbon);
    }
    const every = Math.max(1, Math.ceil(half.length / LEADING_OUT));
    return [...whole, ...half.filter((_, index) => index % every === 0)];
  });
  let frame = 0;
  function scrolled(): void {
    if (!frame)
      frame = requestAnimationFrame(() => {
        frame = 0;
        top = box.scrollTop;
        left = box.scrollLeft;
      });
  }
  function key(event: KeyboardEvent, value: Chosen): void {
    if (event.key === 'o' && value?.kind === 'node' && value.key.startsWith('bundle ')) {
      event.preventDefault();
      onopen?.(value.key);
      return;
    }
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      onchoose(value);
    }
    if (event.key === 'Escape') onchoose(null);
  }
  // A new trace begins with what is traced in the middle of the view.
  $effect(() => {
    const home = river.nodes.find(
      (node) => node.marks.includes(root) && (node.kind === 'mark' || node.kind === 'bundle')
    );
    void tick().then(() =>
      untrack(() => {
        if (home) box.scrollTop = (home.y + NODE.height / 2 + HEAD + PAD) * scale - tall / 2;
      })
    );
  });
</script>

<div
  class="river"
  bind:this={box}
  onscroll={scrolled}
  bind:clientWidth={wide}
  bind:clientHeight={tall}
>
  <svg
    width={Math.max(wide - 4, (river.width + 2 * PAD) * scale)}
    height={Math.max(tall - 6, (river.height + HEAD + 2 * PAD) * scale)}
    role="group"
    aria-label="The trace drawn from suppliers at the left to customers at the right"
  >
    <g transform="scale({scale}) translate({PAD} {PAD})">
      {#each river.columns as column, index (index)}<text
          class="column"
          x={index * NODE.column}
          y="8">{column}</text
        >{/each}
      <g
        transform="translate(0 {HEAD +
          Math.max(0, ((tall - 6) / scale - river.height - HEAD - 2 * PAD) / 2.6)})"
      >
        {#each ribbons as ribbon (`${ribbon.from}\n${ribbon.to}`)}
          {@const isChosen =
            chosen?.kind === 'ribbon' && chosen.from === ribbon.from && chosen.to === ribbon.to}
          <path
            class="ribbon"
            class:chosen={isChosen}
            class:beyond={beyond.has(ribbon.from) || beyond.has(ribbon.to)}
            class:dim={joined && !(joined.has(ribbon.from) && joined.has(ribbon.to))}
            d={path(ribbon.path)}
            stroke-width={ribbon.path.width}
          />
          <path
            class="grip"
            d={path(ribbon.path)}
            stroke-width={Math.max(10, ribbon.path.width)}
            role="button"
            tabindex="-1"
            aria-label="What went this way"
            onclick={() => onchoose({ kind: 'ribbon', from: ribbon.from, to: ribbon.to })}
            onkeydown={(event) => key(event, { kind: 'ribbon', from: ribbon.from, to: ribbon.to })}
          />
        {/each}
        {#each nodes as node (node.key)}
          {@const said = describe(node)}
          <g
            class="node {said.shape} {said.state}"
            class:root={node.marks.includes(root) && node.kind === 'mark'}
            class:chosen={chosen?.kind === 'node' && chosen.key === node.key}
            class:beyond={said.beyond}
            class:dim={joined && !joined.has(node.key)}
            transform="translate({node.x} {node.y})"
            role="button"
            tabindex="0"
            aria-pressed={chosen?.kind === 'node' && chosen.key === node.key}
            aria-label="{said.title}, {said.under}{said.state === 'usable' || said.state === ''
              ? ''
              : `, ${said.state}`}{said.beyond ? ', beyond time' : ''}"
            onclick={() => onchoose({ kind: 'node', key: node.key })}
            ondblclick={() => {
              if (node.kind === 'bundle') onopen?.(node.key);
            }}
            onkeydown={(event) => key(event, { kind: 'node', key: node.key })}
          >
            {#if node.kind === 'bundle'}<path
                class="behind"
                d={shape(said.shape)}
                transform="translate(4 -4)"
              />{/if}
            <path d={shape(said.shape)} />
            {#if said.shape === 'lot'}<circle cx="11" cy={NODE.height / 2} r="3.6" />{/if}
            <text
              class="title"
              class:mono={said.shape !== 'end' && said.shape !== 'here'}
              x={said.shape === 'lot' ? 21 : 11}
              y="18"
              >{said.shape === 'end' || said.shape === 'here'
                ? short(said.title, 24)
                : short(said.title, 18, 'even')}</text
            >
            <text class="under" x={said.shape === 'lot' ? 21 : 11} y="34">{underOf(said)}</text>
          </g>
        {/each}
      </g>
    </g>
  </svg>
  <div class="zoom">
    <button onclick={() => (zoom = Math.max(0.5, zoom / 1.25))} aria-label="Smaller">−</button>
    <button onclick={() => (zoom = Math.min(3, zoom * 1.25))} aria-label="Larger">+</button>
  </div>
</div>
<p class="visually-hidden">
  {count(river.nodes.length, 'stone')} and {count(river.ribbons.length, 'ribbon')}; the outline and
  the table say the same.
</p>

<style>
  .river {
    position: relative;
    flex: 1;
    min-height: 260px;
    overflow: auto;
    background: var(--paper);
  }
  svg {
    display: block;
  }
  .column {
    font: 600 12.5px var(--sans);
    fill: var(--ink-soft);
  }
  .ribbon {
    fill: none;
    stroke: #dcc69b;
    opacity: 0.78;
  }
  .ribbon.chosen {
    stroke: var(--brass);
    opacity: 0.9;
  }
  .ribbon.beyond {
    stroke-dasharray: 7 6;
  }
  .grip {
    fill: none;
    stroke: transparent;
    cursor: pointer;
    outline: none;
  }
  .grip:hover {
    stroke: rgb(133 82 10 / 18%);
  }
  .dim {
    opacity: 0.22;
  }
  .node {
    cursor: pointer;
    outline: none;
  }
  .node path {
    fill: var(--panel);
    stroke: var(--ink);
    stroke-width: 1.2;
  }
  .node .behind {
    fill: var(--paper-deep);
  }
  .node.end path {
    stroke: var(--line-strong);
  }
  .node.here path {
    fill: var(--sea-pale);
    stroke: var(--sea);
  }
  .node.bulk path {
    stroke-dasharray: 4 3;
  }
  .node.beyond path {
    stroke: var(--ink-soft);
    stroke-dasharray: 2 3;
    fill: var(--paper);
  }
  .node.held path {
    stroke: var(--rust);
    fill: var(--rust-pale);
  }
  .node.rejected path {
    fill: var(--ink);
  }
  .node.rejected text {
    fill: #fff;
  }
  .node.root path {
    stroke-width: 2.6;
  }
  .node:focus-visible path,
  .node.chosen path {
    stroke: var(--brass);
    stroke-width: 2.8;
  }
  .node circle {
    fill: var(--paper);
    stroke: var(--ink);
    stroke-width: 1.2;
  }
  text {
    pointer-events: none;
  }
  .title {
    font: 600 13px var(--sans);
    fill: var(--ink);
  }
  .title.mono {
    font-family: var(--mono);
  }
  .under {
    font: 11.5px var(--sans);
    fill: var(--ink-soft);
  }
  .zoom {
    position: sticky;
    left: 10px;
    bottom: 10px;
    display: inline-flex;
    gap: 4px;
    margin-left: 10px;
    margin-top: -46px;
  }
  .zoom button {
    width: 36px;
    height: 36px;
    border: 1px solid var(--line-strong);
    background: var(--panel);
    border-radius: 2px;
    font-size: 18px;
    cursor: pointer;
  }
</style>
