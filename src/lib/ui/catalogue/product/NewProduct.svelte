<!--
  A new product, by the questions that matter: what it is called, what it is counted in, where it
  comes from and how it is marked. All else has good defaults and stands on its page.
-->
<script lang="ts">
  import { goto } from '$app/navigation';
  import type { Marking } from '../../../core/catalogue/marking.ts';
  import type { Refusal } from '../../frame/api.ts';
  import { askUnlessKept } from '../../frame/ask-before-leaving.ts';
  import { putRecord } from '../../frame/put-record.ts';
  import ChoiceField from '../../parts/ChoiceField.svelte';
  import OtherErrors from '../../parts/OtherErrors.svelte';
  import { fieldError } from '../../parts/refusal.ts';
  import TextField from '../../parts/TextField.svelte';
  import { DECIMALS } from './product-form.ts';

  let form = $state({
    ...{ code: '', name: '', unit: 'each', decimals: '0' },
    made: false,
    marking: 'lot' as Marking
  });
  let refusal = $state.raw<Refusal | null>(null);
  let busy = $state(false);
  const unsaved = askUnlessKept(() => form);
  const wrong = (path: string): string => fieldError(refusal, path);
  const WAYS: readonly (readonly [Marking, name: string, says: string])[] = [
    ['lot', 'By lot', 'A quantity made or received together has one number.'],
    ['serial', 'By serial', 'Every one has its own number.'],
    ['serial-in-lot', 'By serial within lot', 'Every one has its own number and belongs to a lot.'],
    ['none', 'By quantity only', 'It has no number, and shows up in traces as unmarked.']
  ];
  const SOURCES = [
    [false, 'Bought', 'It comes from suppliers: it is received against purchase orders.'],
    [true, 'Made here', 'It is built of parts: what one takes is said on its page next.']
  ] as const;

  async function keep(): Promise<void> {
    busy = true;
    const { code, decimals, ...body } = form;
    const given = { ...body, decimals: Number(decimals) };
    const reply = await putRecord<{ code: string }>('products', code, given, null);
    busy = false;
    refusal = reply.ok ? null : reply.refusal;
    if (!reply.ok) return;
    unsaved.kept();
    await goto(`/setup/products/${encodeURIComponent(reply.body.code)}?kept`);
  }
</script>

<form
  class="page"
  onsubmit={(event) => {
    event.preventDefault();
    void keep();
  }}
>
  <h1>New product</h1>
  <OtherErrors {refusal} known={['code', 'name', 'unit', 'decimals', 'marking']} />
  <fieldset>
    <legend>What is it called?</legend>
    <div class="form-fields">
      <TextField
        label="Code"
        number
        most={60}
        bind:value={form.code}
        hint="As it stands on orders and labels"
        error={wrong('code')}
      />
      <TextField label="Name" bind:value={form.name} error={wrong('name')} />
      <TextField label="Unit" most={20} bind:value={form.unit} error={wrong('unit')} />
      <ChoiceField
        label="Counted in"
        bind:value={form.decimals}
        choices={DECIMALS}
        error={wrong('decimals')}
      />
    </div>
  </fieldset>
  <fieldset>
    <legend>Where does it come from?</legend>
    <div class="ways">
      {#each SOURCES as [made, name, says] (name)}<label class="way" class:on={form.made === made}
          ><input type="radio" bind:group={form.made} value={made} /><b>{name}</b>
          <span class="small soft">{says}</span></label
        >{/each}
    </div>
  </fieldset>
  <fieldset>
    <legend>How is it marked?</legend>
    <div class="ways">
      {#each WAYS as [marking, name, says] (marking)}<label
          class="way"
          class:on={form.marking === marking}
          ><input type="radio" bind:group={form.marking} value={marking} /><b>{name}</b>
          <span class="small soft">{says}</span></label
        >{/each}
    </div>
    {#if wrong('marking')}<p class="stop small">{wrong('marking')}</p>{/if}
  </fieldset>
  <p class="acts">
    <button class="act main" disabled={busy}>Keep {form.code.trim() || 'product'}</button><a
      class="act quiet"
      href="/setup/products">All products</a
    >
    <span class="small soft"
      >Numbering, shelf life, units and weights stand on its page once it is kept.</span
    >
  </p>
</form>

<style>
  form {
    max-width: 980px;
    gap: 18px;
  }
  fieldset {
    border: 0;
    padding: 0;
    margin: 0;
    display: grid;
    gap: 10px;
    min-width: 0;
  }
  legend {
    font-size: 15px;
    font-weight: 600;
    padding: 0 0 8px;
  }
  .ways {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
    gap: 10px;
  }
  .way {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 2px 10px;
    padding: 10px 12px;
    border: 1px solid var(--line-strong);
    background: var(--panel);
    cursor: pointer;
    align-content: start;
  }
  .way.on {
    border-color: var(--brass);
    box-shadow: inset 0 0 0 1px var(--brass);
    background: var(--brass-pale);
  }
  .way input {
    width: 18px;
    height: 18px;
    accent-color: var(--brass);
  }
  .way span {
    grid-column: 2;
  }
  .way:focus-within {
    outline: 2px solid var(--brass);
    outline-offset: 2px;
  }
  .acts {
    display: flex;
    gap: 12px;
    align-items: center;
    flex-wrap: wrap;
  }
</style>
