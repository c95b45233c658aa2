<!-- One unit in hand, at arm's length: scan it, then part after part; each finds its position, and what does not belong is refused in words. -->
<script lang="ts">
  import type { Position } from '../../core/catalogue/positions.ts';
  import { messagesOf, send } from '../frame/api.ts';
  import { count } from '../parts/say.ts';
  import type { Row } from './grid.ts';
  import { inTurn } from '../../core/in-turn.ts';
  import ProductPicture from '../catalogue/ProductPicture.svelte';
  import BenchActs from './BenchActs.svelte';
  import BenchScan from './BenchScan.svelte';
  import type { Told } from './in-hand.ts';
  import { sound } from './sound.ts';

  interface Props {
    order: string;
    product: string;
    positions: readonly Position[];
    units: readonly Row[];
    /** Row of the unit in hand; as long as `units` where none is begun. */
    at: number;
    /** Outputs named ahead that are neither made nor on the sheet. */
    waiting: readonly string[];
    /** How many are still to be built with those on the sheet. */
    of: string;
    /** A new row for a serial, with its lots filled in. */
    fresh: (serial: string) => Row;
    onchange: (units: Row[], at: number) => void;
  }
  let { order, product, positions, units, at, waiting, of, fresh, onchange }: Props = $props();

  type Answer =
    | { is: 'unit'; serial: string; says: string; alsoWith: string[] }
    | {
        is: 'part';
        key: string;
        label: string;
        number: string;
        product: string;
        says: string;
        alsoWith: string[];
      }
    | { is: 'refused'; says: string; alsoWith: string[] };
  let field: ReturnType<typeof BenchScan>;
  let said = $state.raw<Told | null>(null);
  let loud = $state(false);
  let before: { units: readonly Row[]; at: number }[] = [];
  let steps = $state(0);
  /** Scans are answered one after the other, in the order they were made. */
  const turn = inTurn();

  const unit = $derived(units[at]?.serial?.trim() ? units[at]! : null);
  const open = $derived(unit ? positions.filter((position) => !unit[position.key]?.trim()) : []);
  const complete = $derived(
    units.filter(
      (row) => row.serial?.trim() && positions.every((position) => row[position.key]?.trim())
    ).length
  );
  const begun = $derived(units.filter((row) => row.serial?.trim()).length);

  const asks = $derived(
    unit
      ? `Scan ${open[0]?.label ?? 'the next unit'}.`
      : waiting.length > 0
        ? `${count(waiting.length, 'unit')} named ahead: scan one, or press Next unit.`
        : 'From its traveler or its label.'
  );

  function put(next: Row[], where: number): void {
    before = [...before.slice(-100), { units, at }];
    steps = before.length;
    onchange(next, where);
  }

  export function undo(): void {
    const last = before.pop();
    steps = before.length;
    if (!last) return;
    onchange([...last.units], last.at);
    say('warned', 'The last scan is taken back.');
    field.focus();
  }

  function say(tone: 'taken' | 'refused' | 'warned', words: string, done = false): void {
    said = { tone, text: words };
    if (loud) sound(tone === 'refused' ? 'refused' : done ? 'done' : 'taken');
  }

  /** Takes a scan, from the field here or from the frame's. */
  export function take(scanned: string): void {
    const given = scanned.trim();
    if (given !== '')
      turn(() => place(given)).catch(() =>
        say('refused', 'That scan could not be answered. Scan it again.')
      );
  }

  async function place(scanned: string): Promise<void> {
    const filled = unit
      ? Object.fromEntries(
          positions.flatMap((position) =>
            unit[position.key]?.trim() ? [[position.key, unit[position.key]!]] : []
          )
        )
      : {};
    // A lot filled in by itself gives way to the one that is scanned.
    const given = Object.fromEntries(
      Object.entries(filled).filter(
        ([key]) =>
          positions.find((position) => position.key === key)!.serial || unit?.[`scanned ${key}`]
      )
    );
    const reply = await send<Answer>(
      'POST',
      `/api/v1/orders/work/${encodeURIComponent(order)}/scans`,
      { text: scanned, unit: unit?.serial?.trim() ?? null, filled: given }
    );
    if (!reply.ok) return say('refused', messagesOf(reply.refusal).join(' '));
    const answer = reply.body;
    if (answer.is === 'refused') return say('refused', answer.says);
    if (answer.is === 'unit') return begin(answer.serial);
    const elsewhere = units.findIndex(
      (row, index) =>
        index !== at &&
        positions.some(
          (position) =>
            position.serial &&
            row[position.key]?.trim().toUpperCase() === answer.number.toUpperCase()
        )
    );
    if (elsewhere >= 0)
      return say(
        'refused',
        `${answer.number} is on this sheet already, in unit ${units[elsewhere]!.serial}. One part goes into one unit.`
      );
    const own = positions.find((position) => position.key === answer.key)!.component.product,
      serial = unit!.serial;
    const next = units.with(at, {
      ...unit!,
      [answer.key]: answer.product === own ? answer.number : `${answer.product} ${answer.number}`,
      [`scanned ${answer.key}`]: 'yes'
    });
    const left = positions.filter((position) => !next[at]![position.key]?.trim()).length;
    put(next, left === 0 ? nextPlace(next) : at);
    if (left === 0)
      return say('taken', `${answer.says}. Unit ${serial} is complete.${nextUnit(next)}`, true);
    const with_ =
      answer.alsoWith.length > 0
        ? ` ${answer.alsoWith.join(' and ')} ${answer.alsoWith.length === 1 ? 'has' : 'have'} it on an open sheet too.`
        : '';
    say(with_ ? 'warned' : 'taken', `${answer.says}.${with_}`);
  }

  /** The next unit comes by itself: the next one named ahead, or a free row. */
  function nextPlace(rows: Row[]): number {
    const waitingHere = rows.findIndex(
      (row) => row.serial?.trim() && positions.some((position) => !row[position.key]?.trim())
    );
    if (waitingHere >= 0) return waitingHere;
    const serial = waiting.find(
      (one) => !rows.some((row) => row.serial?.trim().toUpperCase() === one.toUpperCase())
    );
    if (serial !== undefined) rows.push(fresh(serial));
    return serial === undefined ? rows.length : rows.length - 1;
  }
  const nextUnit = (rows: readonly Row[]): string => {
    const next = rows[nextPlace([...rows])]?.serial;
    return next ? ` Next: ${next}.` : ' Scan the next unit.';
  };

  function begin(serial: string): void {
    const there = units.findIndex(
      (row) => row.serial?.trim().toUpperCase() === serial.toUpperCase()
    );
    if (there >= 0) put([...units], there);
    else {
      const free = units.findIndex((row) => !row.serial?.trim());
      const next = [...units];
      next[free >= 0 ? free : units.length] = fresh(serial);
      put(next, free >= 0 ? free : units.length);
    }
    say('taken', `Unit ${serial}. Scan its parts.`);
  }

  function skip(): void {
    const next = [...units];
    const serial = waiting.find(
      (one) => !next.some((row) => row.serial?.trim().toUpperCase() === one.toUpperCase())
    );
    if (serial !== undefined) next.push(fresh(serial));
    put(next, serial === undefined ? next.length : next.length - 1);
    say(
      'warned',
      unit && open.length > 0
        ? `${unit.serial} goes on without ${open.map((position) => position.label).join(', ')}.`
        : 'Scan the next unit.'
    );
    field.focus();
  }
</script>

<section class="bench" aria-label="Unit in hand">
  <div class="unit" class:none={unit === null}>
    <ProductPicture {product} size={64} />
    {#if unit}<span class="what">{product}</span><b class="number">{unit.serial}</b>{:else}<b
        >Scan the {begun === 0 ? 'first' : 'next'} unit</b
      >{/if}
    <span class="tally number">{complete} of {of}</span>
  </div>
  <BenchScan
    bind:this={field}
    told={said ?? { tone: 'ask', text: asks }}
    label="Scan the unit or a part"
    mayUndo={steps > 0}
    ontake={take}
    onundo={undo}
  />
  <ol class="positions">
    {#each positions as position (position.key)}
      {@const value = unit?.[position.key]?.trim() ?? ''}
      <li class:filled={value !== ''} class:next={unit !== null && open[0]?.key === position.key}>
        <span class="sign" aria-hidden="true">{value ? '✓' : '○'}</span>
        <span class="label"
          >{position.label}<small
            >{position.component.name}{position.component.revision
              ? ` · revision ${position.component.revision}`
              : ''}</small
          ></span
        >
        <span class="value number"
          >{value ||
            (unit ? (open[0]?.key === position.key ? 'scan it now' : 'to come') : '')}</span
        >
      </li>
    {/each}
  </ol>
  <BenchActs mayUndo={steps > 0} onundo={undo} bind:loud onchosen={() => field.focus()}>
    <button class="act" onclick={skip} disabled={unit === null && waiting.length === 0}
      >{unit && open.length > 0 ? 'Next unit, this one lacks parts' : 'Next unit'}</button
    >
  </BenchActs>
</section>

<style>
  .bench {
    display: grid;
    grid-template-rows: auto auto auto minmax(0, 1fr) auto;
    flex: 1 1 300px;
    min-height: 0;
    padding: 14px 18px;
    gap: 10px;
  }
  .unit {
    display: flex;
    align-items: baseline;
    gap: 14px;
    padding: 10px 18px 10px 30px;
    border: 2px solid var(--ink);
    clip-path: polygon(14px 0, 100% 0, 100% 100%, 14px 100%, 0 calc(100% - 14px), 0 14px);
    background: var(--paper-deep);
  }
  .unit b {
    font-size: 34px;
    line-height: 1.15;
    overflow-wrap: anywhere;
  }
  .unit .what {
    font-size: 20px;
    color: var(--ink-soft);
  }
  .unit .tally {
    margin-left: auto;
    font-size: 24px;
    font-weight: 600;
    white-space: nowrap;
  }
  .unit.none {
    background: var(--panel);
  }
  .unit.none b {
    font-family: var(--sans);
    font-weight: 400;
    color: var(--ink-soft);
  }
  .positions {
    overflow: auto;
    display: grid;
    gap: 6px;
    align-content: start;
    grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
    min-height: 120px;
  }
  .positions li {
    display: grid;
    grid-template-columns: 26px minmax(0, 1fr) auto;
    align-items: center;
    gap: 8px;
    padding: 6px 12px;
    border: 1px solid var(--line);
    background: var(--panel);
    min-height: 56px;
  }
  .positions .filled {
    background: var(--sea-pale);
    border-color: var(--sea);
  }
  .positions .next {
    border: 2px solid var(--brass);
    background: var(--brass-pale);
  }
  .sign {
    font-size: 24px;
    color: var(--sea);
  }
  li:not(.filled) .sign {
    color: var(--line-strong);
  }
  .label {
    font-size: 18px;
    font-weight: 600;
    display: grid;
    min-width: 0;
  }
  .label small {
    font-weight: 400;
    font-size: 13px;
    color: var(--ink-soft);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .value {
    font-size: 19px;
    font-weight: 600;
    overflow-wrap: anywhere;
  }
  li:not(.filled) .value {
    font: 15px var(--sans);
    color: var(--ink-soft);
  }
  @media (max-width: 700px) {
    .bench {
      padding: 10px;
      --told-size: 18px;
    }
    .unit b {
      font-size: 24px;
    }
    .positions {
      grid-template-columns: 1fr;
    }
  }
</style>
