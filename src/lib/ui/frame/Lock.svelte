<!-- Locks the screen over the sheet when nobody is there, or somebody asks for it; what was typed stays below. -->
<script lang="ts">
  import { refresh } from './refresh.ts';
  import { onMount } from 'svelte';
  import { onLocked, send } from './api.ts';
  import ComeBack from './ComeBack.svelte';
  import { tellWorker } from '../dock/worker.ts';
  import { rememberFocus } from './remember-focus.ts';
  import { watchIdle } from './idle.ts';

  let {
    who,
    minutes,
    locked = $bindable(false)
  }: { who: { login: string; name: string }; minutes: number; locked?: boolean } = $props();
  const BACK = 'earmark back';
  let focusAgain = async (): Promise<void> => {};

  onLocked(cover);
  onMount(() => {
    const end = watchIdle({
      ...{ where: window, shared: localStorage, minutes },
      onIdle: lock,
      onActive: () => void send('GET', '/api/v1/session/lock')
    });
    // Whoever came back in one tab is back in all.
    const backElsewhere = ({ key, newValue }: StorageEvent) => {
      if (key === BACK && locked) void cameBack(newValue?.split(' ')[0] ?? '', false);
    };
    window.addEventListener('storage', backElsewhere);
    return () => {
      end();
      window.removeEventListener('storage', backElsewhere);
    };
  });

  export async function lock(): Promise<void> {
    cover();
    await send('POST', '/api/v1/session/lock');
  }

  function cover(): void {
    if (locked) return;
    focusAgain = rememberFocus();
    locked = true;
    void tellWorker({ locked: true });
  }

  async function cameBack(login: string, tell = true): Promise<void> {
    if (tell) localStorage.setItem(BACK, `${login} ${Date.now()}`);
    // Another person begins where they begin; what the one before had typed is kept for them.
    if (login !== who.login) {
      await tellWorker({ locked: false });
      location.assign('/');
      return;
    }
    locked = false;
    void tellWorker({ locked: false });
    await refresh();
    await focusAgain();
  }
</script>

{#if locked}
  <div class="over" role="dialog" aria-modal="true" aria-label="Locked">
    <ComeBack name={who.name} onback={cameBack} />
  </div>
{/if}

<style>
  .over {
    position: fixed;
    inset: 0;
    z-index: 9500;
    overflow: auto;
    background: var(--paper-deep);
  }
</style>
