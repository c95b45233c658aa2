<!-- One line in hand, at arm's length: scan number after number; what does not belong is refused in words, what else a number needs is asked beside it. -->
<script lang="ts">
  import { tick, untrack } from 'svelte';
  import ProductPicture from '../catalogue/ProductPicture.svelte';
  import DateField from '../parts/DateField.svelte';
  import { sayCounted, sayQuantity } from '../parts/say.ts';
  import AlsoScanned from './AlsoScanned.svelte';
  import BenchActs from './BenchActs.svelte';
  import BenchScan from './BenchScan.svelte';
  import type { Column, Row, RowVerdict } from './grid.ts';
  import { changedRow, rowInHand, scannedBeside, tellScan, type Told } from './in-hand.ts';
  import type { SheetLine } from './line-rows.ts';
  import { sound } from './sound.ts';

  /** What the sheet has, to go back to. */
  interface Kept {
    rows: Record<string, Row[]>;
    at: number;
  }
  interface Props {
    lines: readonly SheetLine[];
    at: number;
    /** All rows of the sheet, by line. */
    rows: Record<string, Row[]>;
    columns: readonly Column[];
    /** The column a scan goes into; the first of a line without numbers is its quantity. */
    scanned: string;
    verdicts: ReadonlyMap<number, RowVerdict & { full: string }>;
    /** On the sheet of this line, and what the order still asks for with it. */
    marked: string;
    left: string;
    /** Takes a scan; answers why it was not taken. */
    ontake: (text: string) => string;
    onpick: (at: number) => void;
    onchange: (rows: Row[]) => void;
    onrestore: (kept: Kept) => void;
    /** Reads the temperature probe for a row, where the line asks for one; answers what it said. */
    onprobe: ((row: number) => Promise<string>) | null;
  }
  let props: Props = $props();

  const BESIDE = 4;
  let field: ReturnType<typeof BenchScan>;
  /** What became of the last scan, and the row it filled, on its line; another line has none. */
  let last = $state.raw<{ line: number; row: number | null; told: Told | null } | null>(null);
  let loud = $state(false);
  let before = $state.raw<readonly Kept[]>([]);

  const line = $derived(props.lines[props.at]!);
  const lineRows = $derived(props.rows[line.line] ?? []);
  const mine = $derived(last?.line === line.line ? last : null);
  const isNumbered = $derived(props.scanned !== 'quantity');
  const hand = $derived(isNumbered ? (mine?.row ?? rowInHand(lineRows, props.scanned)) : 0);
  const row = $derived(lineRows[hand]);
  const number = $derived(isNumbered ? (row?.[props.scanned]?.trim() ?? '') : '');
  const others = $derived(props.columns.filter(({ key }) => key !== props.scanned || !isNumbered));
  const beside = $derived(scannedBeside(lineRows, props.scanned, hand, BESIDE));
  const asks = $derived(
    isNumbered
      ? `Scan the ${props.scanned} of the ${number ? 'next' : 'first'} ${line.product}.`
      : `${line.product} is kept without numbers: say how much.`
  );
  const shown = $derived(tellScan(mine?.told ?? null, props.verdicts.get(hand), asks));

  // What the ledger says of a number comes a moment after its scan: it is heard then.
  let heard = '';
  $effect(() => {
    const refused = shown.tone === 'refused' ? shown.text : '';
    if (refused !== '' && refused !== heard && untrack(() => loud)) sound('refused');
    heard = refused;
  });

  const tell = (tone: Told['tone'], text: string, row: number | null = null): void => {
    last = { line: line.line, row, told: { tone, text } };
  };

  /** Takes a scan, from the field here or from the frame's. */
  export function take(given: string): void {
    const scan = given.trim();
    if (scan === '') return;
    const wanted = props.lines.findIndex((one) => one.product.toUpperCase() === scan.toUpperCase());
    if (wanted >= 0) toLine(wanted);
    else void takeNumber(scan);
    field.focus();
  }

  async function takeNumber(scan: string): Promise<void> {
    const kept: Kept = { rows: props.rows, at: props.at };
    const why = props.ontake(scan);
    await tick();
    if (why !== '') return tell('refused', why, mine?.row);
    const filled = changedRow(kept.rows[line.line] ?? [], lineRows);
    before = [...before.slice(-100), kept];
    const taken = lineRows[filled]?.[props.scanned]?.trim() || scan;
    tell('taken', `${taken} is in. ${whatIsLeft()}`, filled < 0 ? null : filled);
    if (loud) sound(props.left === '0' ? 'done' : 'taken');
  }

  function whatIsLeft(): string {
    if (props.left !== '0') return `${sayCounted(props.left, line.unit)} to go.`;
    const next = props.lines.find((one, index) => index !== props.at && one.left !== '0');
    return next ? `${line.product} is complete.` : 'All of the order is on the sheet.';
  }

  function toLine(at: number): void {
    props.onpick(at);
    last = null;
    field.focus();
  }

  function undo(): void {
    const kept = before.at(-1);
    if (!kept) return;
    before = before.slice(0, -1);
    props.onrestore(kept);
    void tick().then(() => tell('warned', 'The last scan is taken back.'));
    field.focus();
  }

  function takeOut(at: number): void {
    const gone = lineRows[at]?.[props.scanned] ?? '';
    props.onchange(lineRows.toSpliced(at, 1));
    tell('warned', `${gone} is off the sheet.`);
    field.focus();
  }

  /** Puts a row in hand, to mend what is wrong with it. */
  export function show(at: number): void {
    last = { line: line.line, row: at, told: null };
    field.focus();
  }

  async function readProbe(): Promise<void> {
    tell('warned', await props.onprobe!(Math.max(0, hand)), mine?.row);
    field.focus();
  }

  const set = (key: string, value: string): void =>
    props.onchange(
      hand < lineRows.length
        ? lineRows.with(hand, { ...lineRows[hand], [key]: value })
        : [...lineRows, { [key]: value }]
    );
</script>

<section class="bench" aria-label="Line in hand">
  <div class="line">
    <ProductPicture product={line.product} size={64} />
    <span class="what"><b class="number">{line.product}</b> {line.name}</span>
    <span class="tally number"
      >{sayQuantity(props.marked)} of {sayQuantity(line.left)}<small>{line.unit}</small></span
    >
  </div>
  <BenchScan
    bind:this={field}
    told={shown}
    label="Scan a number of {line.product}"
    mayUndo={before.length > 0}
    ontake={take}
    onundo={undo}
  />
  {#if number || !isNumbered}
    <div class="hand" class:wrong={props.verdicts.get(hand)?.tone === 'stop'}>
      {#if number}<span class="mark"
          ><b class="number">{number}</b><button
            class="act"
            aria-label="Take {number} off the sheet"
            onclick={() => takeOut(hand)}>Take off</button
          ></span
        >{/if}
      {#each others as column (column.key)}
        {#if column.kind === 'date'}
          <DateField
            label={column.label}
            monthEnds={column.monthEnds ?? false}
            bind:value={() => row?.[column.key] ?? '', (day) => set(column.key, day)}
          />
        {:else}
          <label class="stack"
            >{column.label}{column.must ? ' (needed)' : ''}
            {#if column.choices}<select
                class="field"
                value={row?.[column.key] ?? ''}
                onchange={(event) => set(column.key, event.currentTarget.value)}
                ><option value=""></option>{#each column.choices as choice (choice)}<option
                    >{choice}</option
                  >{/each}</select
              >{:else}<input
                class="field number"
                inputmode={column.kind === 'quantity' ? 'decimal' : undefined}
                value={row?.[column.key] ?? ''}
                autocomplete="off"
                oninput={(event) => set(column.key, event.currentTarget.value)}
              />{/if}</label
          >
        {/if}
      {/each}
    </div>
  {/if}
  {#if beside.length > 0 && isNumbered}<AlsoScanned
      numbers={beside}
      verdicts={props.verdicts}
      onoff={takeOut}
    />{/if}
  <BenchActs mayUndo={before.length > 0} onundo={undo} bind:loud onchosen={() => field.focus()}>
    {#if props.lines.length > 1}<button
        class="act"
        onclick={() => toLine((props.at + 1) % props.lines.length)}
        >Next line, {props.lines[(props.at + 1) % props.lines.length]!.product}</button
      >{/if}
    {#if props.onprobe}<button class="act" onclick={readProbe}>Read probe</button>{/if}
  </BenchActs>
</section>

<style>
  .bench {
    display: grid;
    gap: 10px;
    padding: 12px 18px;
    align-content: start;
  }
  .line {
    display: flex;
    align-items: baseline;
    gap: 14px;
    padding: 8px 18px;
    border: 2px solid var(--ink);
    background: var(--paper-deep);
  }
  .what {
    font-size: 20px;
    min-width: 0;
    overflow-wrap: anywhere;
  }
  .what b {
    font-size: 30px;
    line-height: 1.15;
    margin-right: 6px;
  }
  .tally {
    margin-left: auto;
    font-size: 30px;
    font-weight: 600;
    white-space: nowrap;
  }
  .tally small {
    font: 16px var(--sans);
    margin-left: 6px;
    color: var(--ink-soft);
  }
  .hand {
    display: flex;
    flex-wrap: wrap;
    gap: 10px 18px;
    align-items: end;
    padding: 10px 16px;
    border: 1px solid var(--line);
    border-left: 6px solid var(--sea);
    background: var(--panel);
  }
  .hand.wrong {
    border-left-color: var(--rust);
  }
  .mark {
    display: flex;
    gap: 14px;
    align-items: center;
    min-width: 0;
  }
  .mark b {
    font-size: 26px;
    overflow-wrap: anywhere;
  }
  .hand :global(.field) {
    height: 48px;
    font-size: 19px;
    max-width: 190px;
  }
  .hand :global(.day .field) {
    width: 190px;
  }
  .hand :global(label) {
    font-size: 15px;
  }
  .mark .act {
    min-height: 48px;
    font-size: 16px;
  }
  @media (max-width: 700px) {
    .bench {
      padding: 10px;
      --told-size: 18px;
    }
    .what b,
    .tally {
      font-size: 22px;
    }
    .what {
      font-size: 16px;
    }
  }
</style>
