<script lang="ts">
  import { goto } from '$app/navigation';
  import SpecPart from '$lib/ui/quality/SpecPart.svelte';
  import SpecResults from '$lib/ui/quality/SpecResults.svelte';

  let { data } = $props();
  const limitsOf = (partner: string) =>
    data.specs.find((one) => (one.partner ?? '') === partner) ?? null;
  const versionOf = (partner: string): string => {
    const found = limitsOf(partner);
    return found ? `, version ${found.version}` : '';
  };
</script>

<svelte:head><title>Spec of {data.product.code} · Quality · Earmark</title></svelte:head>
<div class="page">
  <div class="page-head">
    <h1>
      Spec of <span class="number">{data.product.code}</span>
      <span class="name">{data.product.name}</span>
    </h1>
    <span class="page-acts"
      ><a class="act quiet" href="/setup/products/{encodeURIComponent(data.product.code)}"
        >Product</a
      ><a class="act" href="/quality">Quality</a></span
    >
  </div>
  <div class="whose">
    <label class="stack"
      >whose limits<select
        class="field"
        value={data.partner}
        onchange={async (event) => {
          const field = event.currentTarget;
          await goto(field.value ? `?partner=${encodeURIComponent(field.value)}` : '?');
          // Where somebody rather stays with what is not kept, it says whose that is.
          field.value = data.partner;
        }}
        ><option value="">the product’s own{versionOf('')}</option
        >{#each data.customers as customer (customer.code)}<option value={customer.code}
            >{customer.name}{versionOf(customer.code)}</option
          >{/each}</select
      ></label
    >
    {#if data.partner}<p class="small soft">
        Where this customer asks for the same characteristic, its limits go before the product’s;
        the rest of the product’s count too.
      </p>{/if}
  </div>
  <!-- Whose limits they are is part of what is changed. -->
  {#key `${data.product.code} ${data.partner}`}<SpecPart
      product={data.product.code}
      partner={data.partner}
      present={limitsOf(data.partner)}
      tag={data.tag}
      mayEdit={data.mayEdit}
    />{/key}
  <SpecResults limits={limitsOf('')?.spec.limits ?? []} tests={data.tests} />
</div>

<style>
  .name {
    font-weight: 400;
  }
  .whose {
    display: flex;
    gap: 22px;
    align-items: end;
  }
</style>
