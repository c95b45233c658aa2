<!-- Scans by the camera of a phone, or from a picture, and types like a keyboard wedge into whatever had the focus. -->
<script lang="ts">
  import { onMount } from 'svelte';
  import DevicePanel from './DevicePanel.svelte';
  import { cameraReader } from './camera-reader.ts';
  import { onceInView } from './once-in-view.ts';
  import { scanSignals, setScanSignals } from './scan-signal.ts';
  import { typeLikeWedge } from './wedge.ts';

  let { onclose }: { onclose: () => void } = $props();
  let video = $state<HTMLVideoElement>();
  let target = $state.raw<Element | null>(document.activeElement);
  let said = $state('');
  let isWrong = $state(false);
  let looks = $state(false);
  let isBlind = $state(false);
  let signals = $state(scanSignals(localStorage));
  /** Browsers give a camera over https, and to this machine itself, only. */
  const hasCamera = typeof navigator.mediaDevices?.getUserMedia === 'function';
  const canVibrate = 'vibrate' in navigator;
  const reader = cameraReader();
  const counts = onceInView();

  onMount(() => {
    let stop: (() => void) | null = null;
    let isGone = false;
    const begin = async (): Promise<void> => {
      const end = await (await reader).watch(video!, seen);
      if (isGone) end();
      else [stop, looks] = [end, true];
    };
    if (hasCamera)
      begin().catch((error: unknown) => {
        isBlind = true;
        tell(whyNot(error), true);
      });
    return () => {
      isGone = true;
      stop?.();
    };
  });

  const tell = (text: string, wrong = false): void => {
    [said, isWrong] = [text, wrong];
  };

  function whyNot(error: unknown): string {
    const name = error instanceof Error ? error.name : '';
    if (name === 'NotAllowedError')
      return 'The browser does not let Earmark use the camera. Allow it beside the address, or take a picture.';
    if (name === 'NotFoundError')
      return 'This device has no camera. A picture can be read all the same.';
    return 'The camera does not answer; another program may use it. A picture can be read all the same.';
  }

  /** Given every look, also one that saw nothing. */
  async function seen(text: string | null): Promise<void> {
    if (counts(text)) await type(text!);
  }

  async function type(text: string): Promise<void> {
    await typeLikeWedge(text, target);
    tell(`Scanned ${text.replace(/^\]../, '').replaceAll('\u001d', ' ')}`);
  }

  async function picked(event: Event): Promise<void> {
    const input = event.currentTarget as HTMLInputElement;
    const [file] = input.files ?? [];
    input.value = '';
    if (!file) return;
    tell('Reading the picture …');
    const text = await (await reader).readPicture(file).catch(() => undefined);
    if (text) await type(text);
    else if (text === null)
      tell(
        'No symbol can be read in that picture. Go nearer, hold still, and keep the light off it.',
        true
      );
    else tell(`${file.name} is no picture this browser can show.`, true);
  }
</script>

<DevicePanel name="Camera" title="Scan by camera" bind:target {onclose}>
  {#if hasCamera}
    <div class="view" class:looks hidden={isBlind}>
      <video bind:this={video} muted playsinline aria-label="What the camera sees"></video>
    </div>
  {:else}
    <p class="small soft">
      The camera itself needs Earmark under https. A picture can be read all the same.
    </p>
  {/if}
  <label class="act picture"
    >{hasCamera ? 'Read a picture instead' : 'Take or choose a picture'}
    <input type="file" accept="image/*" capture="environment" onchange={picked} /></label
  >
  <fieldset>
    <legend class="small">When a scan is taken, or not</legend>
    <label class="inline"
      ><input
        type="checkbox"
        bind:checked={signals.sound}
        onchange={() => setScanSignals(localStorage, signals)}
      /> sound</label
    >
    {#if canVibrate}<label class="inline"
        ><input
          type="checkbox"
          bind:checked={signals.vibration}
          onchange={() => setScanSignals(localStorage, signals)}
        /> vibration</label
      >{/if}
  </fieldset>
  <p class="small" class:wrong={isWrong} role="status">{said}</p>
</DevicePanel>

<style>
  fieldset {
    display: flex;
    align-items: center;
    gap: 14px;
    border: 0;
    padding: 0;
    flex-wrap: wrap;
  }
  .view {
    position: relative;
    aspect-ratio: 4 / 3;
    background: var(--ink);
    overflow: hidden;
  }
  video {
    width: 100%;
    height: 100%;
    object-fit: cover;
  }
  .view.looks::after {
    content: '';
    position: absolute;
    inset: 18% 14%;
    border: 2px solid var(--brass);
    pointer-events: none;
  }
  .picture {
    position: relative;
    justify-content: center;
    text-align: center;
    cursor: pointer;
  }
  .picture input {
    position: absolute;
    inset: 0;
    opacity: 0;
    cursor: pointer;
  }
  .picture:focus-within {
    outline: 2px solid var(--brass);
    outline-offset: 2px;
  }
  .wrong {
    color: var(--rust);
  }
  @media (max-width: 700px) {
    .view {
      aspect-ratio: 5 / 2;
    }
    .view.looks::after {
      inset: 8% 20%;
    }
  }
</style>
