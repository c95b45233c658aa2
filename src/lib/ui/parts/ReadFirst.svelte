<!--
  A stretch of a page that is read first, in sentences, and changed where it stands. The focus goes
  into the first field when it opens, and back to where it was opened from.
-->
<script lang="ts" generics="Form extends object">
  import { tick, type Snippet } from 'svelte';
  import type { InPlace } from './in-place.svelte.ts';
  import OtherErrors from './OtherErrors.svelte';

  interface Props {
    title: string;
    place: InPlace<Form>;
    mayEdit: boolean;
    /** Paths of a refusal that are said at their fields. */
    known?: readonly string[];
    /** What the button says that keeps it. */
    keepAs?: string;
    /** Told once it was kept, and says so itself. */
    onkept?: () => void;
    read: Snippet;
    edit: Snippet<[Form]>;
  }
  let { title, place, mayEdit, known = [], keepAs = 'Keep', onkept, read, edit }: Props = $props();
  /** Where one types first; not a field that shows a list of choices once it has the focus. */
  const FIRST = 'input:not([disabled]):not([role="combobox"]), select, textarea';
  let part: HTMLElement;
  let opener = $state<HTMLButtonElement>();

  async function open(): Promise<void> {
    place.change();
    await tick();
    part.querySelector<HTMLElement>(FIRST)?.focus();
  }
  async function closed(left: boolean): Promise<void> {
    await tick();
    if (left) opener?.focus();
    else part.querySelector<HTMLElement>('[aria-invalid="true"], [data-invalid]')?.focus();
  }
  function leaveByKey(event: KeyboardEvent): void {
    if (event.key !== 'Escape' || event.defaultPrevented || !place.form) return;
    event.stopPropagation();
    event.preventDefault();
    void closed(place.leave());
  }
</script>

<!-- svelte-ignore a11y_no_noninteractive_element_interactions (Esc leaves, from any of its fields) -->
<section bind:this={part} class:open={place.form} aria-label={title} onkeydown={leaveByKey}>
  <div class="top">
    <h2>{title}</h2>
    {#if mayEdit && !place.form}<button
        bind:this={opener}
        class="act quiet"
        aria-label="Change: {title}"
        onclick={open}>Change</button
      >{/if}
    <span class="good small" aria-live="polite">{place.justKept && !onkept ? '✓ Kept.' : ''}</span>
  </div>
  {#if place.form}
    <form
      novalidate
      onsubmit={async (event) => {
        event.preventDefault();
        const kept = await place.keep();
        await closed(kept);
        if (kept) onkept?.();
      }}
    >
      <OtherErrors refusal={place.refusal} {known} />
      {#if place.overtaken}<div class="mind now">
          <b>As it is now</b>
          {@render read()}
        </div>{/if}
      {@render edit(place.form)}
      <div class="acts">
        <button class="act main" disabled={place.busy}>{keepAs}</button><button
          type="button"
          class="act"
          onclick={() => closed(place.leave())}>Leave it</button
        >
      </div>
    </form>
  {:else}{@render read()}{/if}
</section>

<style>
  section {
    display: grid;
    gap: 4px;
    align-content: start;
    padding: 10px 0 16px;
    border-top: 1px solid var(--line);
    min-width: 0;
  }
  .open {
    border-top: 3px solid var(--brass);
    background: var(--paper);
    padding: 12px 16px 16px;
  }
  .top {
    display: flex;
    gap: 14px;
    align-items: center;
    min-height: 36px;
  }
  h2 {
    font-size: 15px;
    color: var(--ink);
  }
  .top .act {
    min-height: 36px;
    font-size: 14px;
  }
  form {
    display: grid;
    gap: 14px;
  }
  .now {
    display: grid;
    gap: 6px;
  }
  .acts {
    display: flex;
    gap: 10px;
  }
</style>
