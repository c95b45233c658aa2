<!-- Who a partner is to us, and where letters to them go: read first, changed where it stands. -->
<script lang="ts">
  import { LANGUAGE_NAMES, LANGUAGES, type Language } from '../../../core/papers/language.ts';
  import { putRecord } from '../../frame/put-record.ts';
  import ChoiceField from '../../parts/ChoiceField.svelte';
  import { InPlace } from '../../parts/in-place.svelte.ts';
  import ReadFirst from '../../parts/ReadFirst.svelte';
  import { fieldError } from '../../parts/refusal.ts';
  import Sentences from '../../parts/Sentences.svelte';
  import TextField from '../../parts/TextField.svelte';
  import TickField from '../../parts/TickField.svelte';
  import { typedWhole } from '../../parts/typed-whole.ts';
  import { sayPartner } from './say-partner.ts';

  interface Props {
    partner: {
      code: string;
      name: string;
      supplier: boolean;
      customer: boolean;
      gln: string | null;
      address: string;
      contact: string;
      language: Language;
      warrantyMonths: number | null;
    };
    tag: string;
    mayEdit: boolean;
  }
  let { partner, tag, mayEdit }: Props = $props();
  const put = (change: object) => {
    const { code, ...body } = partner;
    return putRecord('partners', code, { ...body, ...change }, tag);
  };
  const who = new InPlace(
    () => ({
      name: partner.name,
      supplier: partner.supplier,
      customer: partner.customer,
      gln: partner.gln ?? '',
      warranty: partner.warrantyMonths?.toString() ?? ''
    }),
    ({ warranty, gln, ...form }) =>
      put({ ...form, gln: gln.trim() || null, warrantyMonths: typedWhole(warranty) })
  );
  const letters = new InPlace(
    () => ({
      address: partner.address,
      contact: partner.contact,
      language: partner.language
    }),
    put
  );
  const wrong = (path: string): string => fieldError(who.refusal, path);
</script>

<div class="two">
  <ReadFirst title="Who they are" place={who} {mayEdit} known={['name', 'gln', 'warrantyMonths']}>
    {#snippet read()}<Sentences says={sayPartner(partner)} />{/snippet}
    {#snippet edit(form)}
      <div class="form-fields">
        <TextField label="Name" bind:value={form.name} error={wrong('name')} />
        <TextField
          label="GLN"
          keys="numeric"
          most={13}
          bind:value={form.gln}
          error={wrong('gln')}
        />
        {#if form.customer}<TextField
            label="Warranty by their contract"
            unit="months"
            keys="numeric"
            most={4}
            bind:value={form.warranty}
            hint="Empty: as each product says"
            error={wrong('warrantyMonths')}
          />{/if}
      </div>
      <div class="ticks">
        <TickField label="Supplier" bind:value={form.supplier} />
        <TickField label="Customer" bind:value={form.customer} />
      </div>
    {/snippet}
  </ReadFirst>
  <ReadFirst title="Where letters go" place={letters} {mayEdit}>
    {#snippet read()}
      {#if partner.address || partner.contact}<p class="address">
          {partner.address}{partner.contact ? `\n${partner.contact}` : ''}
        </p>{:else}<p class="soft">
          No address is kept: recall letters and delivery notes go out without one.
        </p>{/if}
      <p>Papers and letters are written in {LANGUAGE_NAMES[partner.language]}.</p>
    {/snippet}
    {#snippet edit(form)}
      <TextField
        label="Address, as it stands on a letter"
        lines={4}
        most={1000}
        bind:value={form.address}
        error={fieldError(letters.refusal, 'address')}
      />
      <TextField
        label="Contact: who reads a letter, with telephone or e-mail"
        most={300}
        bind:value={form.contact}
        error={fieldError(letters.refusal, 'contact')}
      />
      <ChoiceField
        label="Papers and letters are written in"
        choices={LANGUAGES.map((one) => [one, LANGUAGE_NAMES[one]] as const)}
        bind:value={form.language}
      />
    {/snippet}
  </ReadFirst>
</div>

<style>
  .two {
    display: grid;
    grid-template-columns: repeat(2, minmax(0, 1fr));
    gap: 0 40px;
    align-items: start;
  }
  .address {
    white-space: pre-line;
  }
  .ticks {
    display: flex;
    gap: 0 24px;
  }
  @media (max-width: 800px) {
    .two {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
