<script lang="ts">
  import { page } from '$app/state';
  import { isDay } from '$lib/core/calendar/day.ts';
  import { readTypedDay } from '$lib/core/calendar/read-typed-day.ts';
  import { sayDay, sayDistance } from '$lib/core/calendar/say-day.ts';

  /**
   * A day, typed as people write it and shown as days are shown everywhere. What cannot be read
   * stays as it was typed, and says so.
   */
  interface Props {
    label: string;
    /** `YYYY-MM-DD`, empty, or what was typed and is no day. */
    value: string;
    /** In a form that is sent as an address. */
    name?: string;
    /** A month alone means its last day, as on goods that expire. */
    monthEnds?: boolean;
    min?: string;
    max?: string;
    required?: boolean;
    disabled?: boolean;
    placeholder?: string;
    /** The label beside it and not above. */
    inline?: boolean;
    /** What was refused of it. */
    error?: string;
    /** Told when the field is left with another day than it had, or one is chosen. */
    onday?: (day: string) => void;
  }
  let {
    label,
    value = $bindable(),
    name,
    monthEnds = false,
    min = '',
    max = '',
    required = false,
    disabled = false,
    placeholder = '31 dec 27',
    inline = false,
    error = '',
    onday
  }: Props = $props();

  const id = $props.id();
  const today = $derived(page.data.today ?? new Date().toISOString().slice(0, 10));
  /** What is being typed; null while nobody does. */
  let typed = $state<string | null>(null);
  let calendar = $state<HTMLInputElement>();
  let field = $state<HTMLInputElement>();
  const shown = $derived(typed ?? (isDay(value) ? sayDay(value) : value));
  const wrong = $derived(whatIsWrong(value));
  const read = $derived(isDay(value) ? `${sayDay(value)}, ${sayDistance(value, today)}` : '');
  const hint = $derived(error || wrong || (typed === null ? '' : read));
  /** What the day was before it was typed over. */
  let before = '';

  $effect(() => field?.setCustomValidity(wrong));

  function whatIsWrong(day: string): string {
    if (day === '') return '';
    if (!isDay(day)) return 'No day I can read: type 31 dec 27, 31.12.2027 or 2027-12-31.';
    if (max && day > max) return `No later than ${sayDay(max)}.`;
    return min && day < min ? `No earlier than ${sayDay(min)}.` : '';
  }

  function type(text: string): void {
    if (typed === null) before = value;
    typed = text;
    value = readTypedDay(text, { today, monthEnds }) ?? text.trim();
  }

  function leave(): void {
    if (typed === null) return;
    typed = null;
    if (value !== before && wrong === '') onday?.(value);
  }

  function choose(day: string): void {
    typed = null;
    value = day;
    onday?.(day);
  }

  function open(): void {
    // Not every browser opens it on demand; the day can be typed in all of them.
    try {
      calendar?.showPicker();
    } catch {
      field?.focus();
    }
  }
</script>

<div class="day" class:inline>
  <label for={id}>{label}</label><span class="box"
    ><input
      {id}
      class="field number"
      aria-describedby={hint ? `${id}-hint` : undefined}
      bind:this={field}
      value={shown}
      {required}
      aria-invalid={hint !== '' && hint !== read}
      autocomplete="off"
      spellcheck="false"
      {placeholder}
      {disabled}
      oninput={(event) => type(event.currentTarget.value)}
      onfocus={(event) => event.currentTarget.select()}
      onblur={leave}
      onkeydown={(event) => {
        if (event.key === 'Enter') leave();
        if (event.key === 'ArrowDown' && event.altKey) open();
      }}
    /><button type="button" tabindex="-1" {disabled} aria-hidden="true" onclick={open}
      ><svg viewBox="0 0 16 16" width="16" height="16"
        ><path
          d="M2.5 3.5h11v10h-11zM2.5 6.5h11M5.5 1.5v3M10.5 1.5v3"
          fill="none"
          stroke="currentColor"
        /></svg
      ></button
    ><input
      class="calendar"
      type="date"
      tabindex="-1"
      aria-hidden="true"
      bind:this={calendar}
      value={isDay(value) ? value : ''}
      {min}
      {max}
      onchange={(event) => choose(event.currentTarget.value)}
    />{#if hint}<span
        id="{id}-hint"
        class="hint"
        class:stop={hint !== read}
        role={hint === read ? undefined : 'alert'}>{hint}</span
      >{/if}</span
  >{#if name}<input type="hidden" {name} {value} />{/if}
</div>

<style>
  .day {
    display: grid;
    gap: 4px;
    font-size: 13px;
    justify-items: start;
    align-content: start;
  }
  .inline {
    display: inline-flex;
    align-items: center;
    gap: 8px;
  }
  label {
    color: var(--ink-soft);
  }
  .box {
    position: relative;
    display: inline-flex;
  }
  .field {
    width: 160px;
    padding-right: 36px;
  }
  button {
    position: absolute;
    right: 1px;
    top: 1px;
    width: 36px;
    height: calc(100% - 2px);
    display: grid;
    place-items: center;
    background: none;
    border: 0;
    color: var(--ink-soft);
    cursor: pointer;
  }
  .calendar {
    position: absolute;
    right: 0;
    bottom: 0;
    width: 1px;
    height: 1px;
    opacity: 0;
    pointer-events: none;
  }
  .hint {
    position: absolute;
    z-index: 3;
    top: calc(100% + 2px);
    left: 0;
    min-width: 100%;
    width: max-content;
    max-width: 280px;
    padding: 3px 8px;
    background: var(--panel);
    border: 1px solid var(--line-strong);
    border-radius: 2px;
    font: 13px var(--sans);
  }
</style>
