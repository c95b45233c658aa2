<!-- A new partner: what they are called and what they are to us; the rest stands on their page. -->
<script lang="ts">
  import { putRecord } from '../../frame/put-record.ts';
  import NewDialog from '../../parts/NewDialog.svelte';
  import TextField from '../../parts/TextField.svelte';
  import TickField from '../../parts/TickField.svelte';

  let { onclose }: { onclose: () => void } = $props();
  let form = $state({ code: '', name: '', supplier: false, customer: false });
  const keep = () => {
    const { code, ...body } = form;
    return putRecord<{ code: string }>('partners', code, body, null);
  };
</script>

<NewDialog
  what="partner"
  size="sm"
  known={['code', 'name']}
  {keep}
  pageOf={({ code }) => `/partners/${encodeURIComponent(code)}`}
  {onclose}
>
  {#snippet fields(wrong)}
    <TextField label="Code" number most={60} bind:value={form.code} error={wrong('code')} />
    <TextField label="Name" bind:value={form.name} error={wrong('name')} />
    <div>
      <TickField label="Supplier: we buy from them" bind:value={form.supplier} />
      <TickField label="Customer: we ship to them" bind:value={form.customer} />
    </div>
    <p class="small soft">Address, GLN and what they wish are said on their page next.</p>
  {/snippet}
</NewDialog>
