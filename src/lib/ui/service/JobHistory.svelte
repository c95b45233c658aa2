<!-- All that happened to a job, the latest first: turns, what was found and done, bookings, messages. -->
<script lang="ts">
  import type { JobEvent, JobMessage, JobStep } from '../../core/service/job-history.ts';
  import { sayDay } from '../../core/calendar/say-day.ts';
  import { dayOfInstant, sayTime } from '../parts/say.ts';

  interface Props {
    steps: readonly JobStep[];
    events: readonly JobEvent[];
    messages: readonly JobMessage[];
  }
  let { steps, events, messages }: Props = $props();
  interface Line {
    key: string;
    at: string;
    by: string;
    says: string;
    more: string;
    href?: string;
  }
  const spent = (minutes: number | null): string => (minutes === null ? '' : ` · ${minutes} min`);
  const lines = $derived(
    [
      ...steps.map((step): Line => ({
        key: `step ${step.id}`,
        at: step.at,
        by: step.by,
        says: step.state ?? (step.kind === 'finding' ? 'found' : 'done'),
        more: step.note + spent(step.minutes)
      })),
      ...events.map((event): Line => ({
        key: `event ${event.id}`,
        at: event.at,
        by: event.who,
        says: `booked: ${event.kind}`,
        more: event.takenBack ? 'taken back since' : '',
        href: `/events/${event.id}`
      })),
      ...messages.map((message, at): Line => ({
        key: `message ${at}`,
        at: message.at,
        by: `to ${message.address}`,
        says: message.refused ? 'could not be told' : 'told',
        more: message.refused ? `${message.subject}. ${message.refused}` : message.subject
      }))
    ].sort((a, b) => b.at.localeCompare(a.at))
  );
</script>

<h2>What happened</h2>
<ol>
  {#each lines as line (line.key)}<li>
      {#if line.href}<a href={line.href}>{line.says}</a>{:else}<b>{line.says}</b>{/if}
      {line.more}
      <span class="soft small">{sayDay(dayOfInstant(line.at))}, {sayTime(line.at)} · {line.by}</span
      >
    </li>{/each}
</ol>

<style>
  ol {
    display: grid;
  }
  li {
    padding: 7px 0;
    border-bottom: 1px solid #ebe5da;
    overflow-wrap: anywhere;
  }
  .small {
    display: block;
  }
</style>
