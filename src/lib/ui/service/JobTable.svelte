<!-- Jobs as a list. -->
<script lang="ts">
  import type { JobSummary } from '../../core/service/job-summary.ts';
  import { sayDay, sayDistance } from '../../core/calendar/say-day.ts';
  import { dayOfInstant } from '../parts/say.ts';
  import WideTable from '../parts/WideTable.svelte';

  let { jobs, today, none }: { jobs: readonly JobSummary[]; today: string; none: string } =
    $props();
</script>

{#if jobs.length === 0}<p class="soft">{none}</p>{:else}
  <WideTable of="jobs">
    <table class="plain">
      <thead
        ><tr
          ><th scope="col">Job</th><th scope="col">Unit</th><th scope="col">Customer</th><th
            scope="col">Fault</th
          ><th scope="col">Stands at</th><th scope="col">Promised</th><th scope="col">Opened</th
          ></tr
        ></thead
      >
      <tbody data-list>
        {#each jobs as job (job.number)}<tr>
            <td class="whole"
              ><a class="number" href="/service/{encodeURIComponent(job.number)}">{job.number}</a
              ></td
            >
            <td><b class="number">{job.serial}</b> <span class="soft">{job.product}</span></td>
            <td>{job.customerName}</td>
            <td class="fault">{job.fault}</td>
            <td>{job.state}</td>
            <td
              class="whole"
              class:stop={job.promised !== null &&
                job.promised < today &&
                job.state !== 'sent back'}
              >{job.promised === null ? '' : sayDistance(job.promised, today)}</td
            >
            <td class="soft whole">{sayDay(dayOfInstant(job.openedAt))}</td>
          </tr>{/each}
      </tbody>
    </table>
  </WideTable>
{/if}

<style>
  .whole {
    white-space: nowrap;
  }
  .fault {
    min-width: 150px;
    max-width: 300px;
    overflow-wrap: anywhere;
  }
</style>
