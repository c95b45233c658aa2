<!-- A scanner to try everything with: pick or paste a symbol, and it types like a keyboard wedge into whatever has the focus. -->
<script lang="ts">
  import { page } from '$app/state';
  import DevicePanel from './DevicePanel.svelte';
  import { messagesOf, send } from './api.ts';
  import { typeLikeWedge } from './wedge.ts';

  let { onclose }: { onclose: () => void } = $props();
  interface Sample {
    says: string;
    text: string;
  }
  let pasted = $state('');
  let prefix = $state(']d2');
  let samples = $state.raw<Sample[]>([]);
  let celsius = $state('4.5');
  let plugged = $state(true);
  let said = $state('');
  let target = $state.raw<Element | null>(null);

  $effect(() => {
    void load(page.url.pathname);
  });
  async function load(path: string): Promise<void> {
    const reply = await send<{ samples: Sample[]; probe: { celsius: string; plugged: boolean } }>(
      'GET',
      `/api/v1/devices/samples?path=${encodeURIComponent(path)}`
    );
    if (!reply.ok) return;
    samples = reply.body.samples;
    ({ celsius, plugged } = reply.body.probe);
  }
  /** Separators are typed as they are; a person writes them as <GS>. */
  const raw = (text: string): string => text.replaceAll(/<GS>|\{GS\}|\\x1d|\\u001d/gi, '\u001d');

  async function scan(text: string): Promise<void> {
    said = '';
    const symbol =
      /^https?:|^\(/.test(text) || !/^(01|00)\d{14}/.test(text) ? text : `${prefix}${text}`;
    await typeLikeWedge(raw(symbol), target);
    said = `Scanned ${symbol.replaceAll('\u001d', '<GS>')}`;
  }
  async function setProbe(): Promise<void> {
    const reply = await send('PUT', '/api/v1/devices/probe', { celsius, plugged });
    said = reply.ok
      ? plugged
        ? `The probe shows ${celsius} °C.`
        : 'The probe is unplugged.'
      : messagesOf(reply.refusal)[0]!;
  }
</script>

<DevicePanel name="Simulated devices" title="Simulated scanner" bind:target {onclose}>
  <form
    onsubmit={(event) => {
      event.preventDefault();
      if (pasted.trim()) void scan(pasted.trim());
    }}
  >
    <input
      class="field number"
      bind:value={pasted}
      placeholder="paste a symbol or number"
      aria-label="Symbol to scan"
      autocomplete="off"
      spellcheck="false"
    />
    <select class="field" bind:value={prefix} aria-label="Symbology prefix"
      ><option value="]d2">]d2 DataMatrix</option><option value="]C1">]C1 GS1-128</option><option
        value="]Q3">]Q3 QR</option
      ><option value="">no prefix</option></select
    >
    <button class="act">Scan</button>
  </form>
  {#if samples.length > 0}<ul>
      {#each samples as sample (sample.text)}<li>
          <button onclick={() => scan(sample.text)}
            ><b>{sample.says}</b><br /><span class="number small"
              >{sample.text.replaceAll('\u001d', '<GS>')}</span
            ></button
          >
        </li>{/each}
    </ul>
  {:else}<p class="small soft">
      Open an order, and symbols that could lie on its goods are offered here.
    </p>{/if}
  <h2>Simulated probe</h2>
  <form
    onsubmit={(event) => {
      event.preventDefault();
      void setProbe();
    }}
  >
    <label class="inline"
      ><input
        class="field number"
        bind:value={celsius}
        inputmode="decimal"
        aria-label="Temperature the probe shows"
      /> °C</label
    >
    <label class="inline"><input type="checkbox" bind:checked={plugged} /> plugged in</label>
    <button class="act">Set</button>
  </form>
  {#if said}<p class="small" role="status">{said}</p>{/if}
</DevicePanel>

<style>
  form {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
  }
  form > .number {
    flex: 1 1 100%;
  }
  .inline .number {
    width: 80px;
  }
  ul {
    display: grid;
    gap: 4px;
    max-height: 210px;
    overflow: auto;
  }
  li button {
    width: 100%;
    text-align: left;
    border: 1px solid var(--line);
    background: var(--paper);
    padding: 6px 9px;
    cursor: pointer;
    overflow-wrap: anywhere;
  }
  li button:hover {
    border-color: var(--brass);
  }
</style>
