<!-- The dialog something new is made in: kept only where there is none under its code, then shown. -->
<script lang="ts" generics="Made">
  import type { Snippet } from 'svelte';
  import { goto } from '$app/navigation';
  import { Modal } from 'carbon-components-svelte';
  import type { Refusal, Reply } from '../frame/api.ts';
  import OtherErrors from './OtherErrors.svelte';
  import { fieldError } from './refusal.ts';

  interface Props {
    /** What is made, in a word: `place`. */
    what: string;
    size?: 'sm';
    /** Paths of a refusal that are said at their fields. */
    known: readonly string[];
    keep: () => Promise<Reply<Made>>;
    /** Where its page is, once it is made. */
    pageOf: (made: Made) => string;
    onclose: () => void;
    /** Its fields, told what is wrong at each. */
    fields: Snippet<[wrong: (path: string) => string]>;
  }
  let { what, size, known, keep, pageOf, onclose, fields }: Props = $props();
  let refusal = $state.raw<Refusal | null>(null);

  async function make(): Promise<void> {
    const reply = await keep();
    refusal = reply.ok ? null : reply.refusal;
    if (reply.ok) await goto(pageOf(reply.body));
  }
</script>

<Modal
  open
  {size}
  modalLabel="New {what}"
  primaryButtonText="Keep {what}"
  secondaryButtonText="Leave it"
  on:submit={make}
  on:close={onclose}
  on:click:button--secondary={onclose}
  selectorPrimaryFocus=".dialog-form input"
>
  <OtherErrors {refusal} {known} />
  <div class="dialog-form">{@render fields((path) => fieldError(refusal, path))}</div>
</Modal>
