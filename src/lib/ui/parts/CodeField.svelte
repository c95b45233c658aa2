<script lang="ts">
  import type { Choice, ChoiceOf } from '../../core/catalogue/choice.ts';
  import { send } from '../frame/api.ts';

  /**
   * A code, chosen by a few letters of it or of its name: of thousands only those are read that the
   * letters may mean. What is typed stays, also where nothing is called so.
   */
  interface Props {
    label: string;
    /** The label is only told, where a column's head shows it. */
    quiet?: boolean;
    of: ChoiceOf;
    /** The code, or what was typed and is none. */
    value: string;
    /** What it is called, where that is known beforehand. */
    name?: string;
    required?: boolean;
    error?: string;
    /** Told what was chosen; null while what is typed is the code of none. */
    onchoice?: (choice: Choice | null) => void;
  }
  let {
    label,
    quiet = false,
    of,
    value = $bindable(),
    name = '',
    required = false,
    error = '',
    onchoice
  }: Props = $props();

  const id = $props.id();
  /** A pause in typing after which it is looked for. */
  const PAUSE_MS = 150;
  let choices = $state.raw<Choice[]>([]);
  let more = $state(false);
  let open = $state(false);
  let chosen = $state(0);
  /** The letters whose choices stand there; null before any were asked for. */
  let asked = $state.raw<string | null>(null);
  /** Whether it was typed in: what stood there before is not looked up when it is passed by. */
  let touched = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let is = $state.raw<Choice | null>(null);
  const sameCode = (a: string, b: string) => a.trim().toUpperCase() === b.trim().toUpperCase();
  const called = $derived(is && sameCode(is.code, value) ? is.name : name);
  const unknown = $derived(
    asked !== null && !open && asked === value.trim() && value.trim() !== '' && !isKnown()
      ? `No ${of} is called so.`
      : ''
  );
  const hint = $derived(error || unknown);

  function isKnown(): boolean {
    return called !== '' || choices.some((choice) => sameCode(choice.code, value));
  }

  async function look(): Promise<void> {
    const text = value.trim();
    const query = new URLSearchParams({ of, q: text });
    const reply = await send<{ choices: Choice[]; more: boolean }>('GET', `/find/codes?${query}`);
    if (!reply.ok || text !== value.trim()) return;
    ({ choices, more } = reply.body);
    asked = text;
    chosen = 0;
    settle(choices.find((choice) => sameCode(choice.code, text)) ?? null);
  }

  function settle(choice: Choice | null): void {
    if (choice?.code === is?.code) return;
    is = choice;
    onchoice?.(choice);
  }

  function type(): void {
    touched = true;
    open = true;
    clearTimeout(timer);
    timer = setTimeout(look, PAUSE_MS);
  }

  function take(choice: Choice): void {
    clearTimeout(timer);
    value = choice.code;
    asked = choice.code;
    open = false;
    settle(choice);
  }

  /** What is typed and left is looked up, so that its name and unit stand there. */
  async function leave(): Promise<void> {
    open = false;
    clearTimeout(timer);
    if (!touched) return;
    if (value.trim() === '') settle(null);
    else if (!is || !sameCode(is.code, value)) await look();
    const only = choices.length === 1 && !more ? choices[0] : undefined;
    // A few letters that mean one thing alone are that.
    if (only && !open && asked === value.trim() && value.trim() !== '') take(only);
  }

  function key(event: KeyboardEvent): void {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      if (!open) return type();
      const to = chosen + (event.key === 'ArrowDown' ? 1 : -1);
      chosen = Math.max(0, Math.min(choices.length - 1, to));
    } else if (event.key === 'Enter' && open && choices[chosen] && asked === value.trim()) {
      event.preventDefault();
      take(choices[chosen]!);
    } else if (event.key === 'Escape' && open) {
      event.stopPropagation();
      open = false;
    }
  }
</script>

<div class="code" class:quiet>
  <label for={id} class:visually-hidden={quiet}>{label}</label>
  <span class="box">
    <input
      {id}
      class="field number"
      bind:value
      {required}
      maxlength="60"
      role="combobox"
      aria-expanded={open}
      aria-controls="{id}-list"
      aria-autocomplete="list"
      aria-activedescendant={open && choices.length > 0 ? `${id}-${chosen}` : undefined}
      aria-invalid={hint !== ''}
      aria-describedby="{id}-says"
      autocomplete="off"
      spellcheck="false"
      placeholder={quiet ? '' : 'code or a few letters'}
      oninput={type}
      onfocus={() => value.trim() === '' && type()}
      onblur={leave}
      onkeydown={key}
    />
    {#if open && asked !== null}
      <ul id="{id}-list" role="listbox" aria-label={label}>
        {#each choices as choice, index (choice.code)}
          <!-- Keyboard choice is the field's, by arrow keys: the option takes only the mouse. -->
          <!-- svelte-ignore a11y_click_events_have_key_events -->
          <li
            id="{id}-{index}"
            role="option"
            aria-selected={index === chosen}
            class:chosen={index === chosen}
            onmousedown={(event) => event.preventDefault()}
            onclick={() => take(choice)}
          >
            <b class="number">{choice.code}</b> <span>{choice.name}</span>
          </li>
        {:else}
          <li role="option" aria-selected="false" class="soft">
            No {of} is called so, by code or name.
          </li>
        {/each}
        {#if more}<li role="option" aria-selected="false" class="soft small">
            There are more: type a few letters of the code or the name.
          </li>{/if}
      </ul>
    {/if}
  </span>
  <span class="says" id="{id}-says" class:stop={hint !== ''}>{hint || called}</span>
</div>

<style>
  .code {
    display: grid;
    gap: 4px;
    font-size: 13px;
    align-content: start;
  }
  label {
    color: var(--ink-soft);
  }
  .box {
    position: relative;
    display: grid;
  }
  .field {
    width: 100%;
    min-width: 180px;
  }
  .says {
    min-height: 18px;
    color: var(--ink-soft);
  }
  /* In a table's cell the row is as high as its fields until there is something to say. */
  .quiet .says:empty {
    display: none;
  }
  .says.stop {
    color: var(--rust);
  }
  ul {
    position: absolute;
    z-index: 20;
    top: calc(100% + 2px);
    left: 0;
    min-width: 100%;
    width: max-content;
    max-width: min(420px, 90vw);
    max-height: 320px;
    overflow: auto;
    margin: 0;
    padding: 0;
    list-style: none;
    background: var(--panel);
    border: 1px solid var(--line-strong);
    border-radius: 3px;
    box-shadow: 0 8px 24px rgb(29 41 48 / 25%);
  }
  li {
    padding: 8px 10px;
    font-size: 14px;
    cursor: pointer;
    border-bottom: 1px solid #ebe5da;
  }
  li.chosen,
  li:hover {
    background: var(--brass-pale);
  }
  li.soft {
    cursor: default;
    background: none;
  }
</style>
