<!-- The lines of an order as cards: what each asks for, what is there for it, where a fault is. Many are looked for by name, and scroll by themselves, so that the line in hand stays in sight. -->
<script lang="ts">
  import { tick } from 'svelte';
  import { sayAmount, sayQuantity } from '../parts/say.ts';
  import { FEW_LINES, linesShown, nextOpenLine, sayCover, sayLine } from './line-cards.ts';
  import type { Mode, SheetLine } from './line-rows.ts';

  interface Props {
    lines: readonly SheetLine[];
    mode: Mode;
    at: number;
    /** On the sheet of each line, and still to mark of it. */
    sums: readonly string[];
    toGo: readonly string[];
    /** Lines with a fault. */
    bad: ReadonlySet<number>;
    /** What of each product may leave, where goods leave. */
    usable: Record<string, string> | null;
    /** What the customer wishes of each product, in words. */
    wishes: Record<string, string>;
    /** The bench says the same of a single line, larger. */
    isTold: boolean;
    onpick: (at: number) => void;
    /** Fills every line with what its order says. */
    onall: (() => void) | null;
  }
  let { lines, mode, at, sums, toGo, bad, usable, wishes, isTold, onpick, onall }: Props = $props();

  let text = $state('');
  let onlyOpen = $state(false);
  let cards: HTMLElement;

  const isMany = $derived(lines.length > FEW_LINES);
  const shown = $derived(linesShown(lines, { text, onlyOpen, toGo }));
  const openLines = $derived(toGo.filter((left) => left !== '0').length);

  // The line in hand is in sight among many.
  $effect(() => {
    void at;
    if (isMany)
      void tick().then(() =>
        cards.querySelector('[aria-selected=true]')?.scrollIntoView({ block: 'nearest' })
      );
  });

  function pickFirst(event: KeyboardEvent): void {
    if (event.key !== 'Enter' || shown.length === 0) return;
    event.preventDefault();
    onpick(shown[0]!);
  }
</script>

<div class="lines" class:few={!isMany}>
  {#if isMany || onall}
    <div class="find">
      {#if isMany}
        <input
          class="field"
          bind:value={text}
          onkeydown={pickFirst}
          placeholder="product or name"
          aria-label="Find a line of the order"
          autocomplete="off"
        />
        <label class="only"><input type="checkbox" bind:checked={onlyOpen} /> only open</label>
        <span class="small soft" role="note"
          >{shown.length === lines.length
            ? `${lines.length} lines`
            : `${shown.length} of ${lines.length} lines`}, {openLines} open</span
        >
        {#if openLines > 0}<button class="act quiet" onclick={() => onpick(nextOpenLine(toGo, at))}
            >Next open line</button
          >{/if}
      {/if}
      {#if onall && openLines > 0}<button class="act all" onclick={onall}>All as ordered</button
        >{/if}
    </div>
  {/if}
  <div
    class="cards"
    class:many={isMany}
    class:told={isTold}
    role="tablist"
    aria-label="Lines of the order"
    bind:this={cards}
  >
    {#each shown as index (lines[index]!.line)}
      {@const one = lines[index]!}
      {@const cover =
        usable && one.left !== '0'
          ? sayCover(one.left, usable[one.product] ?? '0', one.unit)
          : null}
      <button
        role="tab"
        aria-selected={index === at}
        class:bad={bad.has(index)}
        onclick={() => onpick(index)}
      >
        <span class="top"><b class="number">{one.product}</b> {one.name}</span>
        <span class="row"
          ><span class="soft small">{sayLine(one, mode)}</span>
          <b class="number"
            >{#if one.left === '0'}<span class="good">{sayAmount(one.quantity, one.unit)} ✓</span
              >{:else}{sayQuantity(sums[index]!)} / {sayAmount(one.left, one.unit)}{/if}</b
          ></span
        >
        {#if cover || wishes[one.product]}<span class="small"
            >{#if cover}<span class={cover.isShort ? 'short' : 'soft'}>{cover.text}</span
              >{/if}{#if wishes[one.product]}<span class="wish">{wishes[one.product]}</span
              >{/if}</span
          >{/if}
      </button>
    {/each}
  </div>
</div>
{#if shown.length === 0}<p class="none soft small">
    No {onlyOpen ? 'open ' : ''}line has “{text}” in its product or name.
  </p>{/if}

<style>
  .few {
    display: flex;
    justify-content: space-between;
    align-items: flex-start;
  }
  .few .find {
    order: 1;
    padding: 12px 18px 0 0;
    flex: none;
  }
  .few .cards {
    padding-right: 10px;
    min-width: 0;
  }
  .find {
    display: flex;
    flex-wrap: wrap;
    gap: 6px 12px;
    align-items: center;
    padding: 8px 18px 0;
  }
  .find .act {
    min-height: 34px;
  }
  .find .field {
    width: 140px;
    height: 34px;
    font-size: 14px;
  }
  .only {
    display: inline-flex;
    gap: 6px;
    align-items: center;
    min-height: 24px;
    font-size: 14px;
  }
  .cards {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
    padding: 12px 18px 4px;
  }
  /* The grid of the line in hand stays above the fold, however many lines there are. */
  .many {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(180px, 1fr));
    max-height: 172px;
    overflow-y: auto;
    margin-bottom: 4px;
    border-bottom: 1px solid var(--line);
  }
  .told {
    display: none;
  }
  button[role='tab'] {
    min-width: 152px;
    max-width: 214px;
    display: grid;
    gap: 2px;
    text-align: left;
    border: 1px solid var(--line);
    border-bottom: 3px solid var(--line);
    background: var(--panel);
    padding: 7px 12px;
    cursor: pointer;
  }
  .many button[role='tab'] {
    min-width: 0;
    align-content: space-between;
  }
  .all {
    margin-left: auto;
  }
  button[aria-selected='true'] {
    border-color: var(--ink);
    border-bottom-color: var(--brass);
  }
  button.bad {
    border-bottom-color: var(--rust);
  }
  .top {
    font-size: 13.5px;
  }
  .row {
    display: flex;
    justify-content: space-between;
    gap: 12px;
    align-items: baseline;
  }
  .short {
    color: var(--rust);
    font-weight: 600;
  }
  .wish {
    display: block;
    color: var(--slate);
  }
  .none {
    margin: 0 18px;
  }
  @media (max-width: 700px) {
    .few {
      display: block;
    }
    .few .find {
      padding: 8px 18px 0;
    }
    .cards {
      display: flex;
      flex-wrap: nowrap;
      overflow-x: auto;
    }
    .many button[role='tab'] {
      width: 212px;
    }
    button[role='tab'] {
      flex: none;
    }
  }
</style>
