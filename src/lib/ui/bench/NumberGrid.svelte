<!-- The grid numbers are typed, scanned and pasted into: one row per lot or serial, windowed so that ten thousand stay smooth. -->
<script lang="ts">
  import { tick } from 'svelte';
  import { inheritedFrom, type Column, type Row, type RowVerdict } from './grid.ts';
  import { page } from '$app/state';
  import { isDay } from '../../core/calendar/day.ts';
  import { fewOf } from '../parts/say.ts';
  import { sayDay } from '../../core/calendar/say-day.ts';
  import { MOST_SHEET_ROWS, takePasted, typedIn } from './paste-table.ts';

  interface Props {
    columns: readonly Column[];
    /** Columns that are not shown; what is pasted under their headings opens them. */
    hidden?: readonly Column[];
    rows: readonly Row[];
    verdicts: ReadonlyMap<number, RowVerdict>;
    onchange: (rows: Row[]) => void;
    /** A new row, before anything is typed into it. */
    fresh?: (index: number) => Row;
    label: string;
    /** Where rows are fixed, no empty row stands at the end. */
    fixed?: boolean;
    focused?: number;
    /**
     * Told when a cell with something in it is left or entered: a scanner types a whole symbol into
     * one. Answers whether it took the text over.
     */
    oncommit?: (index: number, key: string, value: string) => boolean;
    /** Told what was wrong with a paste, or that some of its columns were passed over. */
    onsay?: (message: string) => void;
  }
  let {
    columns,
    hidden = [],
    rows,
    verdicts,
    onchange,
    fresh = () => ({}),
    label,
    fixed = false,
    focused = $bindable(0),
    oncommit = () => false,
    onsay = () => {}
  }: Props = $props();

  const HEIGHT = 44,
    SPARE = 8;
  let view: HTMLDivElement;
  let top = $state(0);
  let tall = $state(600);
  const shown = $derived(rows.length + (fixed ? 0 : 1));
  const from = $derived(Math.max(0, Math.floor(top / HEIGHT) - SPARE));
  const to = $derived(Math.min(shown, Math.ceil((top + tall) / HEIGHT) + SPARE));

  /**
   * What stood here before each change; typing on in one cell is one change. Rows are never altered
   * in place, so this is cheap.
   */
  let before: (readonly Row[])[] = [];
  let typingIn = '';
  const MOST_STEPS = 200;

  function put(next: Row[], cell = ''): void {
    if (cell === '' || cell !== typingIn) before = [...before.slice(-MOST_STEPS), rows];
    typingIn = cell;
    onchange(next);
  }

  /** Takes the last change back. */
  export function undo(): void {
    const last = before.pop();
    if (!last) return;
    typingIn = '';
    onchange([...last]);
  }

  function change(index: number, key: string, value: string): void {
    const next = rows.slice();
    next[index] = { ...(next[index] ?? newRow(index, rows[index - 1])), [key]: value };
    put(next, `${index}/${key}`);
  }

  /** Puts all rows anew, as one change that can be taken back. */
  export function replace(next: Row[]): void {
    put(next);
  }

  /**
   * A date typed as people write it becomes the one form dates have here, when the cell is left.
   */
  function leave(index: number, column: Column, value: string): void {
    typing = '';
    if (!rows[index] || rows[index][column.key] !== value) return;
    const kept = typedIn(column, value, page.data.today);
    if (kept !== value) change(index, column.key, kept);
  }

  /** The cell that is being typed in, which shows what is typed. */
  let typing = $state('');
  /** What a cell shows: a day as days are shown everywhere. */
  function shownIn(index: number, column: Column): string {
    const text = rows[index]?.[column.key] ?? '';
    const isSaid = column.kind === 'date' && typing !== `${index}/${column.key}` && isDay(text);
    return isSaid ? sayDay(text) : text;
  }

  /** The rows below say what stands in this cell, as it is typed. */
  function fillDown(index: number, key: string, value: string): void {
    put(rows.map((row, at) => (at >= index ? { ...row, [key]: value } : row)));
  }

  const newRow = (index: number, above: Row | undefined): Row => ({
    ...fresh(index),
    ...inheritedFrom(columns, above)
  });

  /** Moves the focus to a cell, scrolling it into the window first. */
  export async function focusCell(index: number, key = columns[0]!.key): Promise<void> {
    const at = Math.max(0, Math.min(shown - 1, index));
    focused = at;
    const y = at * HEIGHT;
    if (y < view.scrollTop || y > view.scrollTop + view.clientHeight - 2 * HEIGHT)
      view.scrollTop = Math.max(0, y - HEIGHT * 2);
    top = view.scrollTop;
    await tick();
    const cell = view.querySelector<HTMLInputElement>(`[data-cell="${at}/${key}"]`);
    cell?.focus();
    cell?.select?.();
  }

  function key(event: KeyboardEvent, index: number, column: Column): void {
    const command = event.ctrlKey || event.metaKey;
    if (command && event.key.toLowerCase() === 'z' && before.length > 0) {
      event.preventDefault();
      undo();
    } else if (command && event.key.toLowerCase() === 'd') {
      event.preventDefault();
      typing = '';
      fillDown(
        index,
        column.key,
        typedIn(column, rows[index]?.[column.key] ?? '', page.data.today)
      );
    } else if (event.ctrlKey && event.key === 'Delete') {
      event.preventDefault();
      remove(index);
    } else if (event.key === 'ArrowDown' || (event.key === 'Enter' && !event.ctrlKey)) {
      event.preventDefault();
      const value = (event.target as HTMLInputElement).value.trim();
      if (value !== '' && oncommit(index, column.key, value)) return;
      void focusCell(index + 1, column.key);
    } else if (event.ctrlKey && event.key === ']') {
      // A scanner on a keyboard sends the group separator of a symbol as Ctrl+].
      event.preventDefault();
      change(index, column.key, `${(event.target as HTMLInputElement).value}\u001d`);
    } else if (event.key === 'ArrowUp') {
      event.preventDefault();
      void focusCell(index - 1, column.key);
    } else if (event.key === 'Escape') {
      (event.target as HTMLInputElement).blur();
    }
  }

  export function remove(index: number): void {
    if (index >= rows.length) return;
    put(rows.toSpliced(index, 1));
    void tick().then(() => focusCell(index));
  }

  /** A pasted column or table fills from here down and across; one value goes in as it is. */
  function paste(event: ClipboardEvent, index: number, column: Column): void {
    const text = event.clipboardData?.getData('text/plain') ?? '';
    if (!/[\n\r\t]/.test(text.trim())) return;
    event.preventDefault();
    pasteAt(text, index, columns.indexOf(column));
  }

  export function pasteAt(text: string, index: number, across: number): void {
    const pasted = takePasted(text, columns, across, hidden);
    if (!pasted.ok) {
      onsay(pasted.why);
      return;
    }
    const taken = fixed ? pasted.rows.slice(0, Math.max(0, rows.length - index)) : pasted.rows;
    if (index + taken.length > MOST_SHEET_ROWS) {
      onsay(
        `The sheet would have ${(index + taken.length).toLocaleString('en-GB')} rows and ${MOST_SHEET_ROWS.toLocaleString('en-GB')} are the most. Book these first.`
      );
      return;
    }
    const next = rows.slice();
    taken.forEach((row, down) => {
      const at = index + down;
      next[at] = { ...(next[at] ?? newRow(at, next[at - 1])), ...row };
    });
    put(next);
    onsay(
      pasted.passedOver.length > 0
        ? `Passed over, as this sheet has no such column: ${fewOf(pasted.passedOver, 6)}.`
        : ''
    );
    void tick().then(() => focusCell(index + taken.length, columns[across]!.key));
  }

  const SIGN = { good: '✓', stop: '✕', note: 'i', reason: '!' };
</script>

<div class="view" bind:this={view} bind:clientHeight={tall} onscroll={() => (top = view.scrollTop)}>
  <table class:narrow={columns.length > 3} aria-label={label} aria-rowcount={shown}>
    <thead
      ><tr
        ><th class="at" scope="col">#</th>{#each columns as column (column.key)}<th
            scope="col"
            style:width={column.width}
            >{column.label}{#if column.must && column.kind !== 'number'}<span
                class="must"
                title="needed"
                aria-label="needed">*</span
              >{/if}</th
          >{/each}<th scope="col">Verdict</th><th><span class="visually-hidden">Remove</span></th
        ></tr
      ></thead
    >
    <tbody>
      {#if from > 0}<tr aria-hidden="true" style:height="{from * HEIGHT}px"
          ><td colspan={columns.length + 3}></td></tr
        >{/if}
      {#each { length: to - from } as _, offset (from + offset)}
        {@const index = from + offset}
        {@const row = rows[index]}
        {@const verdict = row ? verdicts.get(index) : undefined}
        <tr class={verdict?.tone} class:focused={index === focused} aria-rowindex={index + 1}>
          <td class="at number">{index + 1}</td>
          {#each columns as column (column.key)}
            <td>
              {#if column.choices}
                <select
                  data-cell="{index}/{column.key}"
                  aria-label="{column.label}, row {index + 1}"
                  value={row?.[column.key] ?? ''}
                  onchange={(event) => change(index, column.key, event.currentTarget.value)}
                  onfocus={() => (focused = index)}
                >
                  <option value=""></option>{#each column.choices as choice (choice)}<option
                      value={choice}>{choice}</option
                    >{/each}
                </select>
              {:else}
                <input
                  data-cell="{index}/{column.key}"
                  class:right={column.kind === 'quantity'}
                  class:date={column.kind === 'date'}
                  value={shownIn(index, column)}
                  aria-label="{column.label}, row {index + 1}"
                  aria-invalid={verdict?.tone === 'stop'}
                  inputmode={column.kind === 'quantity' ? 'decimal' : undefined}
                  placeholder={column.kind === 'date' && row ? '31 dec 27' : ''}
                  autocomplete="off"
                  spellcheck="false"
                  oninput={(event) => {
                    typing = `${index}/${column.key}`;
                    change(index, column.key, event.currentTarget.value);
                  }}
                  onblur={(event) => leave(index, column, event.currentTarget.value)}
                  onkeydown={(event) => key(event, index, column)}
                  onpaste={(event) => paste(event, index, column)}
                  onfocus={() => (focused = index)}
                />
              {/if}
            </td>
          {/each}
          <td class="verdict" title={verdict?.text}
            >{#if verdict}<span><b aria-hidden="true">{SIGN[verdict.tone]}</b> {verdict.text}</span
              >{/if}</td
          >
          <td class="remove"
            >{#if row && !fixed}<button
                aria-label="Remove row {index + 1}"
                onclick={() => remove(index)}>✕</button
              >{/if}</td
          >
        </tr>
      {/each}
      {#if to < shown}<tr aria-hidden="true" style:height="{(shown - to) * HEIGHT}px"
          ><td colspan={columns.length + 3}></td></tr
        >{/if}
    </tbody>
  </table>
</div>

<style>
  .view {
    flex: 1 1 260px;
    min-height: 200px;
    overflow: auto;
  }
  table {
    width: 100%;
    border-collapse: collapse;
    table-layout: auto;
  }
  th {
    position: sticky;
    top: 0;
    z-index: 2;
    background: var(--panel);
    text-align: left;
    font-size: 13px;
    font-weight: 600;
    color: var(--ink-soft);
    padding: 8px 8px;
    box-shadow: inset 0 -1px 0 var(--line);
    white-space: nowrap;
  }
  td {
    border-bottom: 1px solid #ebe5da;
    padding: 0 2px;
    height: 44px;
  }
  .at {
    width: 44px;
    text-align: right;
    padding-right: 8px;
    font-size: 13px;
    color: var(--ink-soft);
  }
  .must {
    color: var(--brass);
    margin-left: 2px;
  }
  select {
    width: 100%;
    height: 40px;
    border: 2px solid transparent;
    background: transparent;
    font: 15px var(--sans);
    color: var(--ink);
  }
  select:focus {
    border-color: var(--brass);
    outline: none;
  }
  input {
    width: 100%;
    min-width: 92px;
    height: 40px;
    border: 2px solid transparent;
    background: transparent;
    padding: 0 6px;
    font: 600 15.5px var(--mono);
    font-variant-numeric: tabular-nums;
    color: var(--ink);
  }
  input:hover {
    border-color: var(--line);
  }
  input:focus {
    border-color: var(--brass);
    outline: none;
    background: var(--panel);
  }
  tbody tr:last-child input:not(:focus) {
    border: 2px dashed var(--line);
  }
  tr.stop {
    background: var(--rust-pale);
  }
  tr.reason {
    background: #fdf6e4;
  }
  .verdict {
    width: 38%;
    min-width: 150px;
    font-size: 13.5px;
    padding: 0 8px;
    line-height: 1.25;
    /* Two lines of it stand in the middle, and the row is no higher for them. */
    vertical-align: middle;
  }
  .verdict span {
    display: -webkit-box;
    -webkit-line-clamp: 2;
    line-clamp: 2;
    -webkit-box-orient: vertical;
    overflow: hidden;
  }
  .narrow th {
    white-space: normal;
    line-height: 1.2;
    vertical-align: bottom;
  }
  .narrow input {
    font-size: 14px;
    min-width: 92px;
    padding: 0 4px;
  }
  .narrow input.right {
    min-width: 64px;
  }
  .narrow input.date {
    min-width: 112px;
  }
  .narrow .verdict {
    width: 24%;
    min-width: 116px;
  }
  .narrow .at {
    width: 34px;
  }
  .good .verdict {
    color: var(--sea);
  }
  .stop .verdict {
    color: var(--rust);
    font-weight: 600;
  }
  .note .verdict {
    color: var(--slate);
  }
  .reason .verdict {
    color: #6a4a05;
  }
  .remove {
    width: 34px;
    text-align: center;
  }
  .remove button {
    border: 0;
    background: none;
    cursor: pointer;
    color: var(--ink-soft);
    width: 32px;
    height: 32px;
    opacity: 0;
  }
  tr:hover .remove button,
  tr.focused .remove button,
  .remove button:focus-visible {
    opacity: 1;
  }
</style>
