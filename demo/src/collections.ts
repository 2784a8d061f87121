import type { TuningDocument } from '@yucca/contract';

/** How the three Quillbrook collections are searched. */
export const COLLECTIONS: { name: string; title: string; tuning: TuningDocument }[] = [
  {
    name: 'plants',
    title: 'Plants',
    tuning: {
      search: [
        { field: 'name', weight: 10 },
        { field: 'common_names', weight: 8 },
        { field: 'botanical', weight: 8 },
        { field: 'category', weight: 4 },
        { field: 'colours', weight: 3 },
        { field: 'description', weight: 2 },
        { field: 'care', weight: 1 },
        { field: 'suppliers.name', weight: 1 },
        { field: 'id', weight: 1 },
      ],
      typos: { exactFields: ['id'] },
      facets: [
        { name: 'category', field: 'category' },
        { name: 'colour', field: 'colours' },
        { name: 'light', field: 'light' },
        { name: 'water', field: 'water' },
        { name: 'hardiness', field: 'hardiness' },
        { name: 'supplier', field: 'suppliers.name' },
        { name: 'pet_safe', field: 'pet_safe', label: 'Safe for pets' },
      ],
    },
  },
  {
    name: 'guides',
    title: 'Guides',
    tuning: {
      search: [
        { field: 'title', weight: 10 },
        { field: 'plants', weight: 5 },
        { field: 'topic', weight: 4 },
        { field: 'summary', weight: 4 },
        { field: 'body', weight: 1 },
        { field: 'author', weight: 1 },
      ],
      facets: [
        { name: 'topic', field: 'topic' },
        { name: 'level', field: 'level' },
        { name: 'author', field: 'author' },
      ],
    },
  },
  {
    name: 'gardens',
    title: 'Gardens',
    tuning: {
      search: [
        { field: 'name', weight: 10 },
        { field: 'town', weight: 8 },
        { field: 'kind', weight: 4 },
        { field: 'address', weight: 3 },
        { field: 'services', weight: 2 },
        { field: 'about', weight: 1 },
      ],
      facets: [
        { name: 'kind', field: 'kind' },
        { name: 'services', field: 'services' },
        { name: 'town', field: 'town' },
      ],
    },
  },
];
