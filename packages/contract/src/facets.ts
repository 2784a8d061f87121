/** A value of a facet with how many results hold it. */
export interface FacetValue {
  value: string;
  label: string;
  count: number;
  selected: boolean;
}

/** Values to choose from: texts, numbers and booleans as their text. */
export interface ValuesFacet {
  kind: 'values';
  label: string;
  values: FacetValue[];
  /** There are values beyond the ones listed. */
  more: boolean;
  /** Results that hold no value of this facet. */
  missing: number;
}

/** `[from, to)`; of the last bucket `to` belongs to it. */
export interface NumberBucket {
  from: number;
  to: number;
  count: number;
}

/** A range of numbers: its ends within the results, and how many fall where. */
export interface NumbersFacet {
  kind: 'numbers';
  label: string;
  /** The least and greatest number in the results, whatever is chosen here; null when there is none. */
  min: number | null;
  max: number | null;
  buckets: NumberBucket[];
  /** Results with a number outside all buckets. */
  other: number;
  /** Results without a number. */
  missing: number;
  /** Of those, the ones that hold something that is not a number. */
  notNumbers: number;
  /** The chosen range, both ends inclusive. */
  selected: { min?: number; max?: number } | null;
}

export interface TreeNode {
  /** The last level of the path. */
  value: string;
  /** All levels, joined by the facet's separator: what a choice names. */
  path: string;
  count: number;
  selected: boolean;
  children: TreeNode[];
}

/** Paths such as `Outdoor > Shrubs`: a record counts once in each node it stands at or below. */
export interface TreeFacet {
  kind: 'tree';
  label: string;
  separator: string;
  nodes: TreeNode[];
  more: boolean;
  missing: number;
}

/** Dates by year, month or day: values such as `2026`, `2026-05` or `2026-05-01`, the newest first. */
export interface DatesFacet {
  kind: 'dates';
  label: string;
  by: 'year' | 'month' | 'day';
  values: FacetValue[];
  more: boolean;
  missing: number;
  /** The chosen range of dates, both ends inclusive, if one is chosen. */
  selected: { min?: string; max?: string } | null;
}

export type FacetAnswer = ValuesFacet | NumbersFacet | TreeFacet | DatesFacet;

const label = { type: 'string' } as const;
const count = { type: 'integer', minimum: 0 } as const;
const valueList = {
  type: 'array',
  items: {
    type: 'object',
    required: ['value', 'label', 'count', 'selected'],
    properties: { value: { type: 'string' }, label, count, selected: { type: 'boolean' } },
  },
} as const;

/** The facets of an answer, by name: one schema a kind. */
export const facetAnswerSchema = {
  $id: 'FacetAnswer',
  type: 'object',
  discriminator: { propertyName: 'kind' },
  required: ['kind'],
  oneOf: [
    {
      required: ['kind', 'label', 'values', 'more', 'missing'],
      properties: {
        kind: { const: 'values' },
        label,
        values: valueList,
        more: { type: 'boolean' },
        missing: count,
      },
    },
    {
      required: ['kind', 'label', 'min', 'max', 'buckets', 'other', 'missing', 'notNumbers', 'selected'],
      properties: {
        kind: { const: 'numbers' },
        label,
        min: { type: ['number', 'null'] },
        max: { type: ['number', 'null'] },
        buckets: {
          type: 'array',
          items: {
            type: 'object',
            required: ['from', 'to', 'count'],
            properties: { from: { type: 'number' }, to: { type: 'number' }, count },
          },
        },
        other: count,
        missing: count,
        notNumbers: count,
        selected: { type: ['object', 'null'] },
      },
    },
    {
      required: ['kind', 'label', 'separator', 'nodes', 'more', 'missing'],
      properties: {
        kind: { const: 'tree' },
        label,
        separator: { type: 'string' },
        nodes: { type: 'array', items: { $ref: 'TreeNode' } },
        more: { type: 'boolean' },
        missing: count,
      },
    },
    {
      required: ['kind', 'label', 'by', 'values', 'more', 'missing', 'selected'],
      properties: {
        kind: { const: 'dates' },
        label,
        by: { enum: ['year', 'month', 'day'] },
        values: valueList,
        more: { type: 'boolean' },
        missing: count,
        selected: { type: ['object', 'null'] },
      },
    },
  ],
} as const;

export const treeNodeSchema = {
  $id: 'TreeNode',
  type: 'object',
  required: ['value', 'path', 'count', 'selected', 'children'],
  properties: {
    value: { type: 'string' },
    path: { type: 'string' },
    count,
    selected: { type: 'boolean' },
    children: { type: 'array', items: { $ref: 'TreeNode' } },
  },
} as const;

/** The values of one facet that a text was looked for in. */
export interface FacetValuesAnswer {
  facet: string;
  q: string;
  values: (FacetValue & { ranges: [start: number, end: number][] })[];
  /** Values that fit, listed or not. */
  total: number;
}

/** The values of a facet as one list: those of a tree by their paths, level by level; a range has none. */
export function facetValues(facet: FacetAnswer | undefined): FacetValue[] {
  if (facet === undefined || facet.kind === 'numbers') return [];
  if (facet.kind !== 'tree') return facet.values;
  const list = (nodes: readonly TreeNode[]): FacetValue[] =>
    nodes.flatMap(({ value, path, count: found, selected, children }) => [
      { value: path, label: value, count: found, selected },
      ...list(children),
    ]);
  return list(facet.nodes);
}
