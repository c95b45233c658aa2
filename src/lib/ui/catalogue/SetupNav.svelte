<script lang="ts">
  import SubNav from '../parts/SubNav.svelte';
  let { people, security }: { people: boolean; security: boolean } = $props();
  const items = $derived([
    ['/setup/products', 'Products'],
    ['/setup/partners', 'Partners'],
    ['/setup/places', 'Places'],
    ['/setup/plans', 'Marking plans'],
    ['/setup/numbering', 'Numbering'],
    ['/setup/routes', 'Routes'],
    ['/setup/company', 'Our company'],
    ['/setup/service', 'Service'],
    ['/setup/files', 'From files'],
    ...(people
      ? [
          ['/setup/people', 'People'],
          ['/setup/hooks', 'Hooks']
        ]
      : []),
    ...(security ? [['/setup/security', 'Security log']] : [])
  ] as [string, string][]);
</script>

<SubNav label="Setup" {items} />
