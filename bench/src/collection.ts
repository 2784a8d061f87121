import { completeTuning, type TuningDocument } from '@yucca/contract';

/** How the generated records are searched: two text fields, three facets. */
export const tuningDocument: TuningDocument = {
  search: [
    { field: 'title', weight: 5 },
    { field: 'body', weight: 1 },
  ],
  facets: [
    { name: 'colour', field: 'colour' },
    { name: 'kind', field: 'kind' },
    { name: 'maker', field: 'maker' },
  ],
};

export const tuning = completeTuning(tuningDocument);
