import { createTestClient } from '@yucca/kit/testing';

const client = createTestClient({
  plants: {
    records: [
      { id: 'P-1', name: 'Dog rose', colour: 'pink' },
      { id: 'P-2', name: 'Lady fern', colour: 'green' },
    ],
    tuning: { search: [{ field: 'name' }], facets: [{ name: 'colour', field: 'colour' }] },
  },
});

/** A misspelt word finds what was meant. */
export async function findsRoses(): Promise<boolean> {
  const { results } = await client.search('plants', { q: 'rsoe' });
  return results.map(({ id }) => id).join() === 'P-1';
}
