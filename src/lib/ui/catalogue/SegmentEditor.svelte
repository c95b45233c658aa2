<!-- One part of a numbering scheme: what it is, and what it needs to know. -->
<script lang="ts">
  import type { Segment } from '../../core/numbers/scheme.ts';

  let {
    segment,
    at,
    onchange
  }: { segment: Segment; at: number; onchange: (segment: Segment) => void } = $props();
  const KINDS: [Segment['kind'], string][] = [
    ['text', 'text'],
    ['counter', 'counter'],
    ['year', 'year'],
    ['week', 'ISO week'],
    ['day-of-year', 'day of year'],
    ['date', 'date, yymmdd'],
    ['site', 'site'],
    ['product', 'product'],
    ['shift', 'shift'],
    ['check', 'check character']
  ];
  const FRESH: Record<Segment['kind'], Segment> = {
    text: { kind: 'text', text: '-' },
    counter: { kind: 'counter', width: 5, letters: false },
    year: { kind: 'year', digits: 2 },
    week: { kind: 'week' },
    'day-of-year': { kind: 'day-of-year' },
    date: { kind: 'date' },
    site: { kind: 'site' },
    product: { kind: 'product' },
    shift: { kind: 'shift' },
    check: { kind: 'check', method: 'mod37-36' }
  };
</script>

<select
  class="field"
  aria-label="Kind of part {at}"
  value={segment.kind}
  onchange={(event) => onchange(FRESH[event.currentTarget.value as Segment['kind']])}
>
  {#each KINDS as [kind, says] (kind)}<option value={kind}>{says}</option>{/each}
</select>
{#if segment.kind === 'text'}
  <input
    class="field number"
    aria-label="Text of part {at}"
    value={segment.text}
    maxlength="40"
    oninput={(event) => onchange({ ...segment, text: event.currentTarget.value })}
  />
{:else if segment.kind === 'counter'}
  <span class="both">
    <input
      class="field number"
      type="number"
      min="1"
      max="12"
      aria-label="Places of the counter"
      value={segment.width}
      oninput={(event) =>
        onchange({
          ...segment,
          width: Math.max(1, Math.min(12, Math.round(event.currentTarget.valueAsNumber) || 1))
        })}
    />
    <select
      class="field"
      aria-label="Signs of the counter"
      value={String(segment.letters)}
      onchange={(event) => onchange({ ...segment, letters: event.currentTarget.value === 'true' })}
      ><option value="false">digits</option><option value="true">clear letters</option></select
    >
  </span>
{:else if segment.kind === 'year'}
  <select
    class="field"
    aria-label="Digits of the year"
    value={String(segment.digits)}
    onchange={(event) =>
      onchange({ ...segment, digits: event.currentTarget.value === '4' ? 4 : 2 })}
    ><option value="2">two digits</option><option value="4">four digits</option></select
  >
{:else if segment.kind === 'check'}
  <select
    class="field"
    aria-label="Method of the check character"
    value={segment.method}
    onchange={(event) => onchange({ ...segment, method: event.currentTarget.value as 'mod10' })}
    ><option value="mod37-36">MOD 37,36</option><option value="mod11-2">MOD 11-2</option><option
      value="mod10">mod 10</option
    ></select
  >
{/if}

<style>
  .field {
    width: 100%;
  }
  .both {
    display: grid;
    grid-template-columns: 64px 1fr;
    gap: 6px;
  }
  input {
    min-width: 0;
  }
</style>
