<script lang="ts">
  import { facetValues, markedPieces, parseAddress, withPage, withText, withToggled, type Query } from '@yucca/kit';
  import { createSearch, keepAddress, type KeptAddress } from '@yucca/kit/svelte';
  import { onMount } from 'svelte';
  import { client } from './client';
  import type { PlantsRecord } from './plants-record';

  // The facets that the address may choose from, and what each of them holds.
  const FACETS = [{ name: 'colour', kind: 'values' as const }];

  const [search, state] = createSearch<PlantsRecord>({
    client,
    collection: 'plants',
    request: { facets: ['colour'], size: 12 },
    query: parseAddress(window.location.search, FACETS).query,
  });
  let address: KeptAddress;
  const go = (query: Query, how: 'replace' | 'push'): void => address.change(query, how);

  onMount(() => {
    address = keepAddress(state, () => FACETS);
    void state.refresh();
    return address.stop;
  });
</script>

<input
  type="search"
  aria-label="Search our plants"
  value={$search.query.q}
  oninput={({ currentTarget }) => go(withText($search.query, currentTarget.value), 'replace')}
/>
{#if $search.status === 'failed'}
  <p role="alert">{$search.error?.message}</p>
{/if}
{#if $search.answer}
  <p role="status">{$search.answer.total} plants</p>
  <fieldset>
    <legend>Colour</legend>
    {#each facetValues($search.answer.facets.colour) as { value, label, count, selected } (value)}
      <label>
        <input
          type="checkbox"
          {value}
          checked={selected}
          onchange={() => go(withToggled($search.query, 'colour', value), 'push')}
        />
        {label ?? value} ({count})
      </label>
    {/each}
  </fieldset>
  <ol>
    {#each $search.answer.results as { id, record, marks } (id)}
      <li>
        {#each markedPieces(record.name, marks['/name']) as { text, marked }}
          {#if marked}<mark>{text}</mark>{:else}{text}{/if}
        {/each}
      </li>
    {/each}
  </ol>
  {#if $search.query.page < $search.answer.pages}
    <button type="button" onclick={() => go(withPage($search.query, $search.query.page + 1), 'push')}>Next page</button>
  {/if}
{/if}
