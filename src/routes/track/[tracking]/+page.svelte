<script lang="ts">
  import { sayDay } from '$lib/core/calendar/say-day.ts';
  import OutsidePage from '$lib/ui/service/OutsidePage.svelte';
  let { data } = $props();
</script>

<OutsidePage title="Job {data.job.number}" from={data.job.from}>
  <p>Of your {data.job.product}: <b>{data.job.says}</b>.</p>
  <p class="soft">
    Since {sayDay(data.job.since)}{data.job.promised && data.job.state !== 'sent back'
      ? `; promised for ${sayDay(data.job.promised)}`
      : ''}.
  </p>
</OutsidePage>
