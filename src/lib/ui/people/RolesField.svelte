<!-- The roles of a person, each with what it lets them do. -->
<script lang="ts">
  import type { Role } from '../../core/people/rights.ts';
  import { sayRights } from '../../core/people/say-rights.ts';

  let { roles = $bindable(), all }: { roles: Role[]; all: readonly Role[] } = $props();
</script>

<fieldset>
  <legend class="small soft">Roles</legend>
  {#each all as role (role)}<label class:on={roles.includes(role)}>
      <input type="checkbox" value={role} bind:group={roles} />
      <b>{role}</b>
      <span class="small soft">{sayRights([role]).join(', ')}</span>
    </label>{/each}
</fieldset>

<style>
  fieldset {
    border: 0;
    padding: 0;
    margin: 0;
    columns: 260px;
    column-gap: 8px;
  }
  legend {
    padding-bottom: 6px;
  }
  label {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 2px 10px;
    align-content: start;
    padding: 8px 10px;
    margin-bottom: 8px;
    break-inside: avoid;
    border: 1px solid var(--line);
    background: var(--panel);
    cursor: pointer;
  }
  label.on {
    border-color: var(--brass);
    background: var(--brass-pale);
  }
  input {
    width: 18px;
    height: 18px;
    accent-color: var(--brass);
  }
  span {
    grid-column: 2;
  }
</style>
