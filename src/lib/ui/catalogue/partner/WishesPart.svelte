<!-- What a customer wishes: least remaining life, one lot only, tested goods; for all products or for one. -->
<script lang="ts">
  import { asSeen, send } from '../../frame/api.ts';
  import CodeField from '../../parts/CodeField.svelte';
  import { InPlace } from '../../parts/in-place.svelte.ts';
  import ReadFirst from '../../parts/ReadFirst.svelte';
  import { fieldError } from '../../parts/refusal.ts';
  import Sentences from '../../parts/Sentences.svelte';
  import TextField from '../../parts/TextField.svelte';
  import TickField from '../../parts/TickField.svelte';
  import { typedWhole } from '../../parts/typed-whole.ts';
  import { sayWish, type WishSaid } from './say-partner.ts';

  interface Typed {
    product: string;
    leastDays: string;
    leastShare: string;
    oneLot: boolean;
    oneDate: boolean;
    tested: boolean;
  }
  interface Props {
    partner: { code: string };
    wishes: readonly WishSaid[];
    /** Entity tag of them, as they were seen. */
    tag: string;
    mayEdit: boolean;
  }
  let { partner, wishes, tag, mayEdit }: Props = $props();
  const blank = (): Typed => ({
    ...{ product: '', leastDays: '', leastShare: '' },
    ...{ oneLot: false, oneDate: false, tested: false }
  });
  const typedOf = (wish: WishSaid): Typed => ({
    ...wish,
    product: wish.product ?? '',
    leastDays: wish.leastDays?.toString() ?? '',
    leastShare: wish.leastShare ?? ''
  });
  /** A line that wishes nothing is none. */
  const isWish = (wish: Typed): boolean =>
    wish.leastDays.trim() !== '' ||
    wish.leastShare.trim() !== '' ||
    wish.oneLot ||
    wish.oneDate ||
    wish.tested;
  const place = new InPlace<{ wishes: Typed[] }>(
    () => ({ wishes: wishes.length > 0 ? wishes.map(typedOf) : [blank()] }),
    (form) => {
      const path = `/api/v1/partners/${encodeURIComponent(partner.code)}/wishes`;
      const given = form.wishes.filter(isWish).map((wish) => ({
        ...wish,
        product: wish.product.trim() || null,
        leastDays: typedWhole(wish.leastDays),
        leastShare: wish.leastShare.trim() || null
      }));
      return send('PUT', path, { wishes: given }, asSeen(tag));
    }
  );
  const says = $derived(
    wishes.length > 0
      ? wishes.map(sayWish)
      : ['They wish nothing beyond what is asked of everything we ship.']
  );
  const wrong = (index: number, field: string): string =>
    fieldError(place.refusal, `wishes[${index}].${field}`);
  const known = $derived(
    (place.form?.wishes ?? []).flatMap((_, index) =>
      ['product', 'leastDays', 'leastShare'].map((field) => `wishes[${index}].${field}`)
    )
  );
</script>

<ReadFirst title="What they wish" {place} {mayEdit} {known}>
  {#snippet read()}<Sentences {says} />{/snippet}
  {#snippet edit(form)}
    <p class="small soft">
      A line without a product counts for all; one with a product goes before it.
    </p>
    {#each form.wishes as wish, index (index)}
      <fieldset>
        <legend class="visually-hidden">Wish {index + 1}</legend>
        <CodeField
          label="Of product; empty for all"
          of="product"
          bind:value={wish.product}
          error={wrong(index, 'product')}
        />
        <TextField
          label="To run, at least"
          unit="days"
          keys="numeric"
          most={5}
          bind:value={wish.leastDays}
          error={wrong(index, 'leastDays')}
        />
        <TextField
          label="Of its shelf life, at least"
          unit="%"
          keys="decimal"
          most={8}
          bind:value={wish.leastShare}
          error={wrong(index, 'leastShare')}
        />
        <span class="ticks">
          <TickField label="one lot only" bind:value={wish.oneLot} />
          <TickField label="one date in a carton" bind:value={wish.oneDate} />
          <TickField label="tested goods only" bind:value={wish.tested} />
        </span>
        <button
          type="button"
          class="act quiet"
          aria-label="Remove wish {index + 1}"
          onclick={() => (form.wishes = form.wishes.toSpliced(index, 1))}>✕</button
        >
      </fieldset>
    {/each}
    <button
      type="button"
      class="act quiet add"
      onclick={() => (form.wishes = [...form.wishes, blank()])}>Another wish</button
    >
  {/snippet}
</ReadFirst>

<style>
  fieldset {
    border: 0;
    border-bottom: 1px solid var(--line);
    margin: 0;
    padding: 0 0 8px;
    display: grid;
    grid-template-columns: minmax(180px, 2fr) minmax(130px, 1fr) minmax(130px, 1fr) auto;
    gap: 4px 14px;
    align-items: start;
  }
  fieldset .act {
    grid-row: 1;
    grid-column: 4;
    margin-top: 20px;
  }
  .ticks {
    grid-column: 1 / -1;
    display: flex;
    flex-wrap: wrap;
    gap: 0 24px;
  }
  .add {
    justify-self: start;
  }
  @media (max-width: 700px) {
    fieldset {
      grid-template-columns: minmax(0, 1fr) auto;
    }
    fieldset .act {
      grid-column: 2;
    }
  }
</style>
