<script setup lang="ts">
import { facetValues, markedPieces, parseAddress, withPage, withText, withToggled } from '@yucca/kit';
import { useAddress, useSearch } from '@yucca/kit/vue';
import { client } from './client';
import type { PlantsRecord } from './plants-record';

// The facets that the address may choose from, and what each of them holds.
const FACETS = [{ name: 'colour', kind: 'values' as const }];

const [search, state] = useSearch<PlantsRecord>({
  client,
  collection: 'plants',
  request: { facets: ['colour'], size: 12 },
  query: parseAddress(window.location.search, FACETS).query,
});
const go = useAddress(state, FACETS);
void state.refresh();
</script>

<template>
  <input
    type="search"
    aria-label="Search our plants"
    :value="search.query.q"
    @input="go(withText(search.query, ($event.target as HTMLInputElement).value), 'replace')"
  />
  <p v-if="search.status === 'failed'" role="alert">{{ search.error?.message }}</p>
  <template v-if="search.answer">
    <p role="status">{{ search.answer.total }} plants</p>
    <fieldset>
      <legend>Colour</legend>
      <label v-for="{ value, label, count, selected } in facetValues(search.answer.facets.colour)" :key="value">
        <input
          type="checkbox"
          :value="value"
          :checked="selected"
          @change="go(withToggled(search.query, 'colour', value), 'push')"
        />
        {{ label ?? value }} ({{ count }})
      </label>
    </fieldset>
    <ol>
      <li v-for="{ id, record, marks } in search.answer.results" :key="id">
        <component
          :is="marked ? 'mark' : 'span'"
          v-for="({ text, marked }, i) in markedPieces(record.name, marks['/name'])"
          :key="i"
          >{{ text }}</component
        >
      </li>
    </ol>
    <button
      v-if="search.query.page < search.answer.pages"
      type="button"
      @click="go(withPage(search.query, search.query.page + 1), 'push')"
    >
      Next page
    </button>
  </template>
</template>
