<!-- What a customer wishes: least remaining life, one lot only, tested goods; for all products or for one. -->
<script lang="ts">
  import { onMount } from 'svelte';
  import { Modal } from 'carbon-components-svelte';
  import { messagesOf, send } from '../frame/api.ts';
  import { typedWhole } from '../parts/typed-whole.ts';

  interface Wish {
    product: string;
    leastDays: string;
    leastShare: string;
    oneLot: boolean;
    oneDate: boolean;
    tested: boolean;
  }
  let { partner, onclose }: { partner: { code: string; name: string }; onclose: () => void } =
    $props();
  let wishes = $state<Wish[]>([]);
  let refused = $state.raw<string[]>([]);
  const path = () => `/api/v1/partners/${encodeURIComponent(partner.code)}/wishes`;
  const blank = (): Wish => ({
    product: '',
    leastDays: '',
    leastShare: '',
    oneLot: false,
    oneDate: false,
    tested: false
  });

  onMount(async () => {
    const reply = await send<{
      wishes: {
        product: string | null;
        leastDays: number | null;
        leastShare: string | null;
        oneLot: boolean;
        oneDate: boolean;
        tested: boolean;
      }[];
    }>('GET', path());
    if (reply.ok)
      wishes = reply.body.wishes.map((wish) => ({
        ...wish,
        product: wish.product ?? '',
        leastDays: wish.leastDays?.toString() ?? '',
        leastShare: wish.leastShare ?? ''
      }));
    if (wishes.length === 0) wishes = [blank()];
  });
  async function keep(): Promise<void> {
    const reply = await send('PUT', path(), {
      wishes: wishes
        .filter(
          (wish) =>
            wish.leastDays.trim() ||
            wish.leastShare.trim() ||
            wish.oneLot ||
            wish.oneDate ||
            wish.tested
        )
        .map((wish) => ({
          ...wish,
          product: wish.product.trim() || null,
          leastDays: typedWhole(wish.leastDays),
          leastShare: wish.leastShare.trim() || null
        }))
    });
    if (reply.ok) onclose();
    else refused = messagesOf(reply.refusal);
  }
</script>

<Modal
  open
  size="sm"
  modalLabel="What {partner.name} wishes"
  primaryButtonText="Keep"
  secondaryButtonText="Leave it"
  on:submit={keep}
  on:click:button--secondary={onclose}
  on:close={onclose}
>
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  <p class="small soft">
    A line without a product counts for all; one with a product goes before it.
  </p>
  {#each wishes as wish, index (index)}
    <fieldset>
      <label class="stack"
        >product<input
          class="field number"
          bind:value={wish.product}
          placeholder="all"
          aria-label="Product of wish {index + 1}"
        /></label
      >
      <label class="stack"
        >days to run, at least<input
          class="field number"
          bind:value={wish.leastDays}
          inputmode="numeric"
        /></label
      >
      <label class="stack"
        >% of shelf life, at least<input
          class="field number"
          bind:value={wish.leastShare}
          inputmode="decimal"
        /></label
      >
      <span class="checks"
        ><label><input type="checkbox" bind:checked={wish.oneLot} /> one lot only</label><label
          ><input type="checkbox" bind:checked={wish.oneDate} /> one date in a carton</label
        ><label><input type="checkbox" bind:checked={wish.tested} /> tested goods only</label></span
      >
    </fieldset>
  {/each}
  <button type="button" class="act" onclick={() => (wishes = [...wishes, blank()])}
    >Another product</button
  >
</Modal>

<style>
  fieldset {
    border: 0;
    border-bottom: 1px solid var(--line);
    margin: 0 0 10px;
    padding: 0 0 12px;
    display: grid;
    grid-template-columns: repeat(3, minmax(0, 1fr));
    gap: 10px;
  }
  fieldset .field {
    width: 100%;
  }
  .checks {
    grid-column: 1 / -1;
    display: flex;
    flex-wrap: wrap;
    gap: 4px 18px;
  }
  .checks label {
    display: inline-flex;
    gap: 6px;
    align-items: center;
    min-height: 28px;
  }
</style>
