<script lang="ts">
  import { untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { Button, Checkbox, Select, SelectItem, TextInput } from 'carbon-components-svelte';
  import {
    TRANSPORT_MODES,
    volumetricWeight,
    type TransportMode
  } from '$lib/core/quantity/volumetric.ts';
  import { ONLY_NEW, send, type Refusal } from '$lib/ui/frame/api.ts';
  import { askUnlessKept } from '$lib/ui/frame/ask-before-leaving.ts';
  import { fieldError, otherErrors } from '$lib/ui/parts/refusal.ts';
  import SetPicture from '$lib/ui/catalogue/SetPicture.svelte';
  import { typedWhole } from '$lib/ui/parts/typed-whole.ts';

  let { data } = $props();
  const product = untrack(() => data.product);
  let code = $state(product?.code ?? '');
  let name = $state(product?.name ?? '');
  let unit = $state(product?.unit ?? 'each');
  let decimals = $state(String(product?.decimals ?? 0));
  let made = $state(product?.made ?? false);
  let marking = $state<string>(product?.marking ?? 'lot');
  let shelfLifeDays = $state(product?.shelfLifeDays?.toString() ?? '');
  let warrantyMonths = $state(product?.warrantyMonths?.toString() ?? '');
  let plan = $state(product?.plan ?? '');
  let netWeightKg = $state(product?.netWeightKg ?? '');
  let grossWeightKg = $state(product?.grossWeightKg ?? '');
  let lengthCm = $state(product?.lengthCm ?? '');
  let widthCm = $state(product?.widthCm ?? '');
  let heightCm = $state(product?.heightCm ?? '');
  let overReceiptPercent = $state(
    product && product.overReceiptPercent !== '0' ? product.overReceiptPercent : ''
  );
  let units = $state(
    product?.units.map((one) => ({ name: one.name, holds: one.holds, gtin: one.gtin ?? '' })) ?? []
  );
  let gtin = $state(product?.gtin ?? '');
  let lotScheme = $state(product?.lotScheme ?? '');
  let serialScheme = $state(product?.serialScheme ?? '');
  let components = $state(
    product?.components.map((line) => ({ product: line.product, quantity: line.quantity })) ?? []
  );
  let refusal = $state.raw<Refusal | null>(null);
  const unsaved = askUnlessKept(() => [
    code,
    name,
    unit,
    decimals,
    made,
    marking,
    units,
    components,
    overReceiptPercent,
    shelfLifeDays,
    warrantyMonths,
    plan,
    netWeightKg,
    grossWeightKg,
    lengthCm,
    widthCm,
    heightCm,
    gtin,
    lotScheme,
    serialScheme
  ]);
  let kept = $state(untrack(() => data.kept));
  const KNOWN = [
    'code',
    'name',
    'unit',
    'decimals',
    'marking',
    'plan',
    'shelfLifeDays',
    'warrantyMonths',
    'netWeightKg',
    'grossWeightKg',
    'lengthCm',
    'widthCm',
    'heightCm',
    'overReceiptPercent',
    'gtin'
  ];
  /** A plan says the marking; without one it is chosen. */
  const identity = $derived(data.plans.find((one) => one.code === plan)?.identity ?? marking);
  const volumetric = $derived(
    (Object.keys(TRANSPORT_MODES) as TransportMode[]).flatMap((mode) => {
      const weight = volumetricWeight({ lengthCm, widthCm, heightCm }, mode);
      return weight ? [{ mode, weight }] : [];
    })
  );
  let change = $state.raw<{ may: boolean; says: string[]; owes: object | null } | null>(null);

  /** What marking it differently would mean, told before it is kept. */
  async function explain(): Promise<void> {
    change = null;
    if (!product || identity === product.marking) return;
    const reply = await send<{ may: boolean; says: string[]; owes: object | null }>(
      'GET',
      `/api/v1/products/${encodeURIComponent(product.code)}/identity?to=${identity}`
    );
    if (reply.ok) change = reply.body;
  }
  const hasLots = $derived(identity === 'lot' || identity === 'serial-in-lot');
  const hasSerials = $derived(identity === 'serial' || identity === 'serial-in-lot');
  const EXPLAIN: Record<string, string> = {
    none: 'Kept by quantity only. It shows up in traces as unmarked.',
    lot: 'A quantity made or received together, under one number.',
    serial: 'Every unit has its own number.',
    'serial-in-lot': 'Every unit has its own number and belongs to a lot.'
  };

  async function save(): Promise<void> {
    kept = false;
    const reply = await send<{ code: string }>(
      'PUT',
      `/api/v1/products/${encodeURIComponent(code.trim() || ' ')}`,
      {
        name,
        unit,
        decimals: Number(decimals),
        made,
        ...(plan ? { plan } : { marking, plan: null }),
        grossWeightKg: grossWeightKg.trim() || null,
        lengthCm: lengthCm.trim() || null,
        widthCm: widthCm.trim() || null,
        heightCm: heightCm.trim() || null,
        overReceiptPercent: overReceiptPercent.trim() || null,
        units: units
          .filter((one) => one.name.trim() !== '')
          .map((one) => ({ name: one.name, holds: one.holds, gtin: one.gtin.trim() || null })),
        shelfLifeDays: typedWhole(shelfLifeDays),
        warrantyMonths: typedWhole(warrantyMonths),
        netWeightKg: netWeightKg.trim() || null,
        gtin: gtin.trim() || null,
        lotScheme: hasLots ? lotScheme || null : null,
        serialScheme: hasSerials ? serialScheme || null : null,
        components: made ? components.filter((line) => line.product.trim() !== '') : []
      },
      product === null ? ONLY_NEW : {}
    );
    refusal = reply.ok ? null : reply.refusal;
    if (!reply.ok) return;
    kept = true;
    unsaved.kept();
    if (product) await refresh();
    else await goto(`/setup/products/${encodeURIComponent(reply.body.code)}?kept`);
  }
</script>

<svelte:head><title>{product?.code ?? 'New product'} · Setup · Earmark</title></svelte:head>
<form
  onsubmit={(event) => {
    event.preventDefault();
    void save();
  }}
>
  <h1>
    {#if product}<span class="number">{product.code}</span> {product.name}{:else}New product{/if}
  </h1>
  {#each otherErrors( refusal, [...KNOWN, ...units.flatMap( (_, index) => [`units[${index}]`, `units[${index}].gtin`] )] ) as message, index (index)}<p
      class="refused"
      role="alert"
    >
      {message}
    </p>{/each}
  {#if kept}<p class="kept" role="status">✓ Kept.</p>{/if}
  <fieldset disabled={!data.mayEdit}>
    <div class="grid">
      <TextInput
        labelText="Code"
        bind:value={code}
        disabled={product !== null}
        maxlength={60}
        invalid={!!fieldError(refusal, 'code')}
        invalidText={fieldError(refusal, 'code')}
        required
      />
      <TextInput
        labelText="Name"
        bind:value={name}
        maxlength={200}
        invalid={!!fieldError(refusal, 'name')}
        invalidText={fieldError(refusal, 'name')}
        required
      />
      <TextInput
        labelText="Unit"
        bind:value={unit}
        maxlength={20}
        invalid={!!fieldError(refusal, 'unit')}
        invalidText={fieldError(refusal, 'unit')}
        required
      />
      <Select
        labelText="Counted in"
        bind:selected={decimals}
        invalid={!!fieldError(refusal, 'decimals')}
        invalidText={fieldError(refusal, 'decimals')}
      >
        <SelectItem value="0" text="whole units" />{#each [1, 2, 3, 4, 5, 6] as n (n)}<SelectItem
            value={String(n)}
            text="{n} decimals"
          />{/each}
      </Select>
      <TextInput
        labelText="GTIN"
        bind:value={gtin}
        maxlength={14}
        inputmode="numeric"
        invalid={!!fieldError(refusal, 'gtin')}
        invalidText={fieldError(refusal, 'gtin')}
      />
      <TextInput
        labelText="Over-receipt tolerance, %"
        bind:value={overReceiptPercent}
        inputmode="decimal"
        helperText="How much more than ordered may come in"
        invalid={!!fieldError(refusal, 'overReceiptPercent')}
        invalidText={fieldError(refusal, 'overReceiptPercent')}
      />
    </div>
    <h2>How it is marked</h2>
    <div class="grid">
      <Select
        labelText="Marking plan"
        bind:selected={plan}
        on:update={explain}
        invalid={!!fieldError(refusal, 'plan')}
        invalidText={fieldError(refusal, 'plan')}
      >
        <SelectItem
          value=""
          text="plain: its number at every step"
        />{#each data.plans as one (one.code)}<SelectItem
            value={one.code}
            text="{one.code}, {one.name}"
          />{/each}
      </Select>
      <Select
        labelText="Marked by"
        selected={identity}
        on:update={(event) => {
          marking = String(event.detail);
          void explain();
        }}
        disabled={plan !== ''}
        helperText={plan ? `As plan ${plan} says` : EXPLAIN[identity]}
        invalid={!!fieldError(refusal, 'marking')}
        invalidText={fieldError(refusal, 'marking')}
      >
        <SelectItem value="none" text="quantity only" /><SelectItem
          value="lot"
          text="lot"
        /><SelectItem value="serial" text="serial" /><SelectItem
          value="serial-in-lot"
          text="serial within lot"
        />
      </Select>
      <TextInput
        labelText="Shelf life, days"
        bind:value={shelfLifeDays}
        inputmode="numeric"
        helperText={plan ? 'Empty: as the plan says' : 'Empty: kept without expiry'}
        invalid={!!fieldError(refusal, 'shelfLifeDays')}
        invalidText={fieldError(refusal, 'shelfLifeDays')}
      />
      <TextInput
        labelText="Warranty, months"
        bind:value={warrantyMonths}
        inputmode="numeric"
        invalid={!!fieldError(refusal, 'warrantyMonths')}
        invalidText={fieldError(refusal, 'warrantyMonths')}
      />
      {#if hasLots}<Select labelText="Lots are numbered by" bind:selected={lotScheme}
          ><SelectItem
            value=""
            text={plan ? 'as the plan says' : 'hand'}
          />{#each data.schemes as one (one.code)}<SelectItem
              value={one.code}
              text="{one.code}, {one.name}"
            />{/each}</Select
        >{/if}
      {#if hasSerials}<Select labelText="Serials are numbered by" bind:selected={serialScheme}
          ><SelectItem
            value=""
            text={plan ? 'as the plan says' : 'hand'}
          />{#each data.schemes as one (one.code)}<SelectItem
              value={one.code}
              text="{one.code}, {one.name}"
            />{/each}</Select
        >{/if}
    </div>
    {#if change}<div class="change" class:stuck={!change.may} role="status">
        <b>{change.may ? 'What that means' : 'That cannot be done now'}</b
        >{#each change.says as sentence (sentence)}<p>
            {sentence}
          </p>{/each}{#if change.owes && product}<p>
            Keep it, then <a href="/identify?product={encodeURIComponent(product.code)}"
              >give the numbers</a
            >.
          </p>{/if}
      </div>{/if}
    <h2>Weight and size of one</h2>
    <div class="grid five">
      <TextInput
        labelText="Net, kg"
        bind:value={netWeightKg}
        inputmode="decimal"
        invalid={!!fieldError(refusal, 'netWeightKg')}
        invalidText={fieldError(refusal, 'netWeightKg')}
      />
      <TextInput
        labelText="Gross, kg"
        bind:value={grossWeightKg}
        inputmode="decimal"
        invalid={!!fieldError(refusal, 'grossWeightKg')}
        invalidText={fieldError(refusal, 'grossWeightKg')}
      />
      <TextInput
        labelText="Length, cm"
        bind:value={lengthCm}
        inputmode="decimal"
        invalid={!!fieldError(refusal, 'lengthCm')}
        invalidText={fieldError(refusal, 'lengthCm')}
      />
      <TextInput
        labelText="Width, cm"
        bind:value={widthCm}
        inputmode="decimal"
        invalid={!!fieldError(refusal, 'widthCm')}
        invalidText={fieldError(refusal, 'widthCm')}
      />
      <TextInput
        labelText="Height, cm"
        bind:value={heightCm}
        inputmode="decimal"
        invalid={!!fieldError(refusal, 'heightCm')}
        invalidText={fieldError(refusal, 'heightCm')}
      />
    </div>
    {#if volumetric.length > 0}<p class="small soft">
        Volumetric weight: {volumetric
          .map(({ mode, weight }) => `${weight} kg by ${mode}`)
          .join(', ')}.
      </p>{/if}
    <h2>Other units it is counted in</h2>
    {#if units.length > 0}
      <table class="plain middle components">
        <thead
          ><tr
            ><th scope="col">Unit</th><th scope="col">Holds, {unit}</th><th scope="col"
              >GTIN of the unit</th
            ><th><span class="visually-hidden">Remove</span></th></tr
          ></thead
        >
        <tbody>
          {#each units as one, index (index)}
            <tr
              ><td
                ><input
                  class="field"
                  bind:value={one.name}
                  maxlength="20"
                  aria-label="Name of unit {index + 1}"
                />{#each [`units[${index}]`, `units[${index}].gtin`] as path (path)}{#if fieldError(refusal, path)}<br
                    /><span class="stop small">{fieldError(refusal, path)}</span>{/if}{/each}</td
              >
              <td
                ><input
                  class="field number amount"
                  inputmode="decimal"
                  bind:value={one.holds}
                  aria-label="What unit {index + 1} holds"
                /></td
              ><td
                ><input
                  class="field number"
                  inputmode="numeric"
                  maxlength="14"
                  bind:value={one.gtin}
                  aria-label="GTIN of unit {index + 1}"
                /></td
              >
              <td
                ><button
                  type="button"
                  class="act quiet"
                  aria-label="Remove unit {index + 1}"
                  onclick={() => (units = units.toSpliced(index, 1))}>✕</button
                ></td
              ></tr
            >
          {/each}
        </tbody>
      </table>
    {/if}
    <button
      type="button"
      class="act"
      onclick={() => (units = [...units, { name: '', holds: '', gtin: '' }])}>Add a unit</button
    >
    <Checkbox labelText="Made here, from components" bind:checked={made} />
    {#if made}
      <h2>What one of it takes</h2>
      {#if product}<p class="small soft">
          Positions, alternates, scrap and how each part is named stand on <a
            href="/setup/products/{encodeURIComponent(product.code)}/bill">its bill</a
          >.
        </p>{/if}
      <table class="plain middle components">
        <thead
          ><tr
            ><th scope="col">Component</th><th scope="col">Quantity</th><th scope="col">Unit</th><th
              ><span class="visually-hidden">Remove</span></th
            ></tr
          ></thead
        >
        <tbody>
          {#each components as line, index (index)}
            {@const known = data.others.find(
              (one) => one.code.toUpperCase() === line.product.trim().toUpperCase()
            )}
            <tr>
              <td
                ><input
                  class="field number"
                  list="products"
                  bind:value={line.product}
                  aria-label="Component {index + 1}"
                />
                <span class="soft">{known?.name ?? ''}</span
                >{#if fieldError(refusal, `components[${index}]`)}<span class="stop small"
                    >{fieldError(refusal, `components[${index}]`)}</span
                  >{/if}</td
              >
              <td
                ><input
                  class="field number amount"
                  inputmode="decimal"
                  bind:value={line.quantity}
                  aria-label="Quantity of component {index + 1}"
                /></td
              >
              <td class="soft">{known?.unit ?? ''}</td>
              <td
                ><button
                  type="button"
                  class="act quiet"
                  aria-label="Remove component {index + 1}"
                  onclick={() => (components = components.toSpliced(index, 1))}>✕</button
                ></td
              >
            </tr>
          {/each}
        </tbody>
      </table>
      <datalist id="products"
        >{#each data.others as one (one.code)}<option value={one.code}>{one.name}</option
          >{/each}</datalist
      >
      <button
        type="button"
        class="act"
        onclick={() => (components = [...components, { product: '', quantity: '1' }])}
        >Add a component</button
      >
    {/if}
  </fieldset>
  <div class="acts">
    {#if data.mayEdit}<Button type="submit">Keep {code || 'product'}</Button>{:else}<p class="soft">
        Your role reads this; it does not change it.
      </p>{/if}<Button kind="ghost" href="/setup/products">All products</Button>
  </div>
</form>
{#if product && data.mayEdit}<div class="picture"><SetPicture product={product.code} /></div>{/if}

<style>
  .picture {
    padding: 0 26px 40px;
  }
  form {
    padding: 20px 24px 40px;
    display: grid;
    gap: 16px;
    max-width: 980px;
  }
  fieldset {
    border: 0;
    padding: 0;
    margin: 0;
    display: grid;
    gap: 14px;
    justify-items: start;
  }
  .grid {
    display: grid;
    grid-template-columns: repeat(3, minmax(0, 1fr));
    gap: 18px 22px;
    width: 100%;
    align-items: start;
  }
  .five {
    grid-template-columns: repeat(5, minmax(0, 1fr));
  }
  h2 {
    margin-top: 8px;
  }
  .change {
    background: var(--amber);
    padding: 10px 14px;
    display: grid;
    gap: 4px;
    font-size: 14px;
  }
  .change.stuck {
    background: var(--rust-pale);
    color: var(--rust);
  }
  .components {
    max-width: 640px;
  }
  .amount {
    width: 110px;
  }
  .refused {
    background: var(--rust-pale);
    color: var(--rust);
    font-weight: 600;
    padding: 10px 12px;
  }
  .kept {
    color: var(--sea);
    font-weight: 600;
  }
  .acts {
    display: flex;
    gap: 12px;
    align-items: center;
  }
  @media (max-width: 800px) {
    .grid {
      grid-template-columns: 1fr;
    }
  }
</style>
