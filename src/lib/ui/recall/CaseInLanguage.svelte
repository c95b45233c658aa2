<!-- What letters of a case say in one other language: read first, written where it stands. -->
<script lang="ts">
  import { LANGUAGE_NAMES, type OtherLanguage } from '../../core/papers/language.ts';
  import { send } from '../frame/api.ts';
  import { InPlace } from '../parts/in-place.svelte.ts';
  import ReadFirst from '../parts/ReadFirst.svelte';
  import { fieldError } from '../parts/refusal.ts';
  import { count } from '../parts/say.ts';
  import TextField from '../parts/TextField.svelte';
  import type { RecallCase, WordsOfCase } from './case.ts';

  interface Props {
    page: RecallCase;
    language: OtherLanguage;
    /** How many customers of the case read it. */
    readers: number;
    live: boolean;
  }
  let { page, language, readers, live }: Props = $props();
  const said = $derived<WordsOfCase | undefined>(
    page.words.find((one) => one.language === language)
  );
  const name = $derived(LANGUAGE_NAMES[language]);
  const place = new InPlace(
    () => ({
      title: said?.title ?? '',
      hazard: said?.hazard ?? '',
      request: said?.request ?? ''
    }),
    (form) =>
      send('PUT', `/api/v1/recalls/${encodeURIComponent(page.number)}/words`, {
        language,
        ...form
      })
  );
  const wrong = (path: string): string => fieldError(place.refusal, path);
</script>

<ReadFirst
  title="In {name} · {count(readers, 'customer')}"
  {place}
  mayEdit={live}
  known={['title', 'hazard', 'request']}
>
  {#snippet read()}
    {#if said}<p><b>{said.title}</b></p>
      <p class="text">{said.hazard}{said.request ? `\n\n${said.request}` : ''}</p>
    {:else}<p class="small">
        Nobody has said the case in {name} yet: in their letters, what is wrong and what you ask stands
        in English.
      </p>{/if}
  {/snippet}
  {#snippet edit(form)}
    <TextField
      label="What it is about, in {name}"
      hint="“{page.title}”"
      bind:value={form.title}
      error={wrong('title')}
    />
    <TextField
      label="What is wrong, in {name}"
      hint="“{page.hazard}”"
      lines={3}
      most={4000}
      bind:value={form.hazard}
      error={wrong('hazard')}
    />
    <TextField
      label="What customers are asked to do, in {name}"
      hint={page.request ? `“${page.request}”` : ''}
      lines={2}
      most={4000}
      bind:value={form.request}
      error={wrong('request')}
    />
  {/snippet}
</ReadFirst>

<style>
  .text {
    white-space: pre-line;
  }
</style>
