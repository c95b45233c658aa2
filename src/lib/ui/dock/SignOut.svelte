<!-- Signs out, and leaves nothing readable on this device; what waits for the line would be lost, so that is asked first. -->
<script lang="ts">
  import { Modal } from 'carbon-components-svelte';
  import { forgetSeen } from '../frame/lately-seen.ts';
  import { forgetHere } from './forget-here.ts';
  import { dockStore, type WaitingBooking } from './store.ts';

  let { look = '', says = 'Sign out' }: { look?: string; says?: string } = $props();
  let form: HTMLFormElement;
  let asks = $state(false);
  let lost = $state.raw<readonly WaitingBooking[]>([]);
  const count = $derived(lost.length);

  async function signOut(): Promise<void> {
    forgetSeen(localStorage);
    await forgetHere();
    form.submit();
  }

  async function asked(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    const left = await dockStore.waiting().catch(() => []);
    // What was refused is on the server as a draft of its sheet, where it has one.
    lost = left.filter((one) => !one.refused || one.isApart);
    if (count > 0) asks = true;
    else await signOut();
  }
</script>

<form method="POST" action="/sign-out" bind:this={form} onsubmit={asked}>
  <button class={look}>{says}</button>
</form>
<Modal
  bind:open={asks}
  danger
  size="xs"
  modalHeading="{count} {count === 1 ? 'booking waits' : 'bookings wait'} on this device"
  primaryButtonText="Sign out and lose {count === 1 ? 'it' : 'them'}"
  secondaryButtonText="Stay signed in"
  on:click:button--secondary={() => (asks = false)}
  on:submit={signOut}
>
  <p>
    Earmark has not had {count === 1 ? 'it' : 'them'} yet: {lost
      .map((one) => one.document)
      .join(', ')}. Signing out leaves nothing on this device.
  </p>
</Modal>
