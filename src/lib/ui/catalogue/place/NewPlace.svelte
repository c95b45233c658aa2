<!-- A new place: what it is called, where it is, and what kind of place. -->
<script lang="ts">
  import { putRecord } from '../../frame/put-record.ts';
  import ChoiceField from '../../parts/ChoiceField.svelte';
  import NewDialog from '../../parts/NewDialog.svelte';
  import TextField from '../../parts/TextField.svelte';
  import { PLACE_KIND_CHOICES, sayPlaceKind, type PlaceKind } from './place-kinds.ts';

  let { site, onclose }: { site: string; onclose: () => void } = $props();
  // svelte-ignore state_referenced_locally (a dialog is opened for one new place)
  let form = $state({ code: '', name: '', site, kind: 'rack' as PlaceKind });
  const keep = () => {
    const { code, ...body } = form;
    return putRecord<{ code: string }>('places', code, body, null);
  };
</script>

<NewDialog
  what="place"
  size="sm"
  known={['code', 'name', 'site', 'kind']}
  {keep}
  pageOf={({ code }) => `/setup/places/${encodeURIComponent(code)}`}
  {onclose}
>
  {#snippet fields(wrong)}
    <TextField
      label="Code"
      number
      most={60}
      bind:value={form.code}
      hint="As it stands on its label"
      error={wrong('code')}
    />
    <TextField label="Name" bind:value={form.name} error={wrong('name')} />
    <TextField
      label="Site"
      number
      most={60}
      bind:value={form.site}
      hint="By code; a new one is made"
      error={wrong('site')}
    />
    <ChoiceField
      label="Kind"
      bind:value={form.kind}
      choices={PLACE_KIND_CHOICES}
      hint={sayPlaceKind(form.kind)}
      error={wrong('kind')}
    />
  {/snippet}
</NewDialog>
