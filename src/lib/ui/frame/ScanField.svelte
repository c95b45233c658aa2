<!-- Takes anything: a GS1 symbol, a lot or serial, a document, a partner, a product. -->
<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { looksLikeSymbol } from '$lib/core/gs1/element-string.ts';
  import { send } from './api.ts';
  import { giveInTurn } from './scans-under-way.ts';
  import { latelySeen } from './lately-seen.ts';
  import { signalScan } from './scan-signal.ts';
  import { scanTarget } from './scan-target.svelte.ts';

  interface Hit {
    type: string;
    title: string;
    under: string;
    href: string;
    exact: boolean;
  }
  let { login, cameraOut, oncamera }: { login: string; cameraOut: boolean; oncamera: () => void } =
    $props();
  let text = $state('');
  let hits = $state.raw<Hit[]>([]);
  let asked = $state('');
  let open = $state(false);
  let chosen = $state(0);
  let field: HTMLInputElement;
  let timer: ReturnType<typeof setTimeout> | undefined;
  /** Closes the list once the field was left; who comes back at once finds it open. */
  let leaving: ReturnType<typeof setTimeout> | undefined;

  const offer = $derived(
    text.trim() === '' ? null : (scanTarget.current?.offer(text.trim()) ?? null)
  );
  const options = $derived([
    ...(offer ? [{ type: 'act', title: offer, under: '', href: '', exact: true }] : []),
    ...hits
  ]);

  export function focus() {
    field.focus();
    field.select();
  }

  /** Goes on with what a scanner began to send while no field had the focus. */
  export function goOn(sent: string) {
    field.focus();
    // At once: its next key comes before anything is drawn.
    field.value = sent;
    field.setSelectionRange(sent.length, sent.length);
    text = sent;
    typed();
  }

  async function look(): Promise<void> {
    const wanted = text.trim();
    if (wanted === '') {
      showSeen();
      return;
    }
    const query = new URLSearchParams({ q: wanted, at: page.url.pathname });
    const reply = await send<{ hits: Hit[] }>('GET', `/find?${query}`);
    if (wanted !== text.trim()) return;
    asked = wanted;
    hits = reply.ok ? reply.body.hits : [];
    chosen = 0;
    open = true;
  }

  /** Before anything is typed: what was looked at lately, to come back to. */
  function showSeen(): void {
    const seen = latelySeen(localStorage, login).filter(({ href }) => href !== page.url.pathname);
    hits = seen.map((one) => ({ type: 'seen', ...one, under: '', exact: false }));
    [asked, chosen, open] = ['', 0, hits.length > 0];
  }

  function typed(): void {
    clearTimeout(timer);
    timer = setTimeout(look, 200);
  }

  async function enter(event: KeyboardEvent): Promise<void> {
    // A scanner on a keyboard sends the group separator as Ctrl+].
    if (event.ctrlKey && event.key === ']') {
      event.preventDefault();
      text += '\u001d';
      return;
    }
    if (event.key === 'Escape') {
      open = false;
      text = '';
      field.blur();
      return;
    }
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      chosen = Math.max(
        0,
        Math.min(options.length - 1, chosen + (event.key === 'ArrowDown' ? 1 : -1))
      );
      return;
    }
    // Ctrl+Enter books what the screen holds, from here too.
    if (event.key !== 'Enter' || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    clearTimeout(timer);
    // A scanner types and ends with Enter faster than the pause for looking.
    if (offer && chosen === 0) {
      signalScan(true);
      pick(options[0]!);
      return;
    }
    if (text.trim() === '' && !open) return;
    if (asked !== text.trim()) await look();
    const exact = hits.filter((hit) => hit.exact);
    const option =
      chosen > 0
        ? options[chosen]
        : exact.length === 1
          ? exact[0]
          : options.length === 1 || text.trim() === ''
            ? options[0]
            : undefined;
    signalScan(option !== undefined);
    if (option) pick(option);
    else open = true;
  }

  function pick(option: Hit): void {
    open = false;
    const wanted = text.trim();
    text = '';
    hits = [];
    if (option.type === 'act') give(wanted);
    else goto(option.href);
  }

  function give(wanted: string): void {
    void giveInTurn(async () => {
      const href = looksLikeSymbol(wanted) ? null : await documentNamed(wanted);
      if (href === null) scanTarget.current?.take(wanted);
      else await goto(href);
    });
  }

  /**
   * A document's number typed over a sheet means the document, and an act that is whole the act. On a
   * lost line either means the sheet.
   */
  async function documentNamed(wanted: string): Promise<string | null> {
    const path = `/find?only=document&q=${encodeURIComponent(wanted)}`;
    const reply = await send<{ document: { href: string } | null }>('GET', path);
    return reply.ok ? (reply.body.document?.href ?? null) : null;
  }
</script>

<div class="scan" role="search">
  <kbd aria-hidden="true">/</kbd>
  <input
    bind:this={field}
    bind:value={text}
    oninput={typed}
    onkeydown={enter}
    onfocus={() => {
      clearTimeout(leaving);
      if (text.trim() === '') showSeen();
      else if (hits.length) open = true;
    }}
    onblur={() => (leaving = setTimeout(() => (open = false), 150))}
    placeholder="Scan or type any number, document or partner"
    aria-label="Scan or type any number, document or partner"
    autocomplete="off"
    spellcheck="false"
    role="combobox"
    aria-expanded={open}
    aria-controls="scan-hits"
    aria-autocomplete="list"
    aria-activedescendant={open && options.length ? `scan-hit-${chosen}` : undefined}
  />
  <!-- What had the focus keeps it: the camera types there. -->
  <button
    class="by-camera"
    onmousedown={(event) => event.preventDefault()}
    onclick={oncamera}
    aria-pressed={cameraOut}
    title="Scan by camera"
    aria-label="Scan by camera"
    ><svg aria-hidden="true" viewBox="0 0 24 24" width="20" height="20"
      ><path
        d="M3 8V4h4M17 4h4v4M21 16v4h-4M7 20H3v-4"
        fill="none"
        stroke="currentColor"
        stroke-width="2"
      /><path d="M7 8v8M10 8v8M14 8v8M17 8v8" stroke="currentColor" stroke-width="1.6" /></svg
    ></button
  >
  {#if open}
    <ul id="scan-hits" role="listbox" aria-label="Found">
      {#each options as option, index (index)}
        <!-- Keyboard choice is the field's, by arrow keys: the option itself takes only the mouse. -->
        <!-- svelte-ignore a11y_click_events_have_key_events -->
        <li
          id="scan-hit-{index}"
          role="option"
          aria-selected={index === chosen}
          class:chosen={index === chosen}
          onclick={() => pick(option)}
          onmousedown={(event) => event.preventDefault()}
        >
          <span class="type">{option.type === 'act' ? '↵' : option.type}</span><span class="number"
            >{option.title}</span
          ><span class="under">{option.under}</span>
        </li>
      {:else}
        <li role="option" aria-selected="false" class="none">
          Nothing is known as “{asked}”. Check the number; a new one is given when goods are
          received or built.
        </li>
      {/each}
    </ul>
  {/if}
</div>

<style>
  .scan {
    position: relative;
    display: flex;
    align-items: center;
    flex: 1;
    min-width: 0;
    max-width: 640px;
    height: 36px;
    border: 1px solid #55656f;
    border-radius: 3px;
    background: #2a3942;
    color: #fff;
  }
  .scan:focus-within {
    border-color: #f0b95b;
  }
  kbd {
    color: #dfe4e7;
    border-color: #8a979f;
    margin: 0 0 0 10px;
    font-weight: 400;
  }
  input {
    flex: 1;
    height: 100%;
    min-width: 0;
    border: 0;
    background: transparent;
    color: #fff;
    font: 15px var(--sans);
    padding: 0 10px;
    outline: none;
  }
  .by-camera {
    display: grid;
    place-items: center;
    flex: none;
    width: 40px;
    height: 100%;
    padding: 0;
    border: 0;
    background: none;
    color: #dfe4e7;
    cursor: pointer;
  }
  .by-camera[aria-pressed='true'] {
    color: #f0b95b;
  }
  input::placeholder {
    color: #c3ccd1;
    opacity: 1;
  }
  ul {
    position: absolute;
    top: 40px;
    left: 0;
    right: 0;
    max-height: 420px;
    overflow: auto;
    background: var(--panel);
    color: var(--ink);
    border: 1px solid var(--line-strong);
    border-radius: 3px;
    box-shadow: 0 8px 24px rgb(29 41 48 / 25%);
    z-index: 50;
  }
  li {
    display: grid;
    grid-template-columns: 74px auto 1fr;
    gap: 10px;
    padding: 9px 12px;
    align-items: baseline;
    cursor: pointer;
    border-bottom: 1px solid #ebe5da;
  }
  li.chosen,
  li:hover {
    background: var(--brass-pale);
  }
  li.none {
    display: block;
    color: var(--ink-soft);
    cursor: default;
  }
  .type {
    font-size: 12px;
    color: var(--ink-soft);
  }
  .under {
    font-size: 13px;
    color: var(--ink-soft);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  li .number {
    font-weight: 600;
  }
</style>
