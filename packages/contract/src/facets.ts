import { rangesSchema } from './range.ts';
import {
  as,
  count,
  kinds,
  listOf,
  number,
  object,
  oneOf,
  orNull,
  ref,
  text,
  yesOrNo,
  type ObjectOf,
  type Of,
  type SchemaOf,
} from './schema-of.ts';

/**
 * The kinds of facets: what each is called, and whether it has values with names, which completions offer and a choice
 * names; the others are chosen by a range. A new kind is a line here, its schema below, an entry in the engine's
 * `facets/kinds.ts` and a control in the kit's `facet-list.tsx`.
 */
export const FACET_KINDS = {
  values: { title: 'values', named: true },
  numbers: { title: 'range', named: false },
  tree: { title: 'tree', named: true },
  dates: { title: 'dates', named: false },
} as const;

export type FacetKind = keyof typeof FACET_KINDS;

/** The names of the kinds, for schemas. */
export const FACET_KIND_NAMES = Object.keys(FACET_KINDS) as FacetKind[];

const facetValue = { value: text, label: text, count, selected: yesOrNo } as const;
const facetValueSchema = object(facetValue);

/** A value of a facet with how many results hold it. */
export type FacetValue = Of<typeof facetValueSchema>;

/** Values to choose from: texts, numbers and booleans as their text. */
const valuesFacetSchema = object({
  kind: oneOf('values'),
  label: text,
  values: listOf(facetValueSchema),
  /** There are values beyond the ones listed. */
  more: yesOrNo,
  /** Results that hold no value of this facet. */
  missing: count,
});

export type ValuesFacet = Of<typeof valuesFacetSchema>;

/** `[from, to)`; of the last bucket `to` belongs to it. */
const numberBucketSchema = object({ from: number, to: number, count });

export type NumberBucket = Of<typeof numberBucketSchema>;

/** A range of numbers: its ends within the results, and how many fall where. */
const numbersFacetSchema = object({
  kind: oneOf('numbers'),
  label: text,
  /** The least number in the results, whatever is chosen here; null when there is none. */
  min: orNull(number),
  /** The greatest. */
  max: orNull(number),
  buckets: listOf(numberBucketSchema),
  /** Results with a number outside all buckets. */
  other: count,
  /** Results without a number. */
  missing: count,
  /** Of those, the ones that hold something that is not a number. */
  notNumbers: count,
  /** The chosen range, both ends inclusive. */
  selected: orNull(object({ min: number, max: number }, 'min', 'max')),
});

export type NumbersFacet = Of<typeof numbersFacetSchema>;

const treeNode = {
  /** The last level of the path. */
  value: text,
  /** All levels, joined by the facet's separator: what a choice names. */
  path: text,
  count,
  selected: yesOrNo,
} as const;
export interface TreeNode extends ObjectOf<typeof treeNode> {
  children: TreeNode[];
}

const childNodes = listOf(ref<TreeNode>('TreeNode'));

export const treeNodeSchema: SchemaOf<TreeNode> = { $id: 'TreeNode', ...object({ ...treeNode, children: childNodes }) };

/** Paths such as `Outdoor > Shrubs`: a record counts once in each node it stands at or below. */
const treeFacetSchema = object({
  kind: oneOf('tree'),
  label: text,
  separator: text,
  nodes: childNodes,
  more: yesOrNo,
  missing: count,
});

export type TreeFacet = Of<typeof treeFacetSchema>;

/** Dates by year, month or day: values such as `2026`, `2026-05` or `2026-05-01`, the newest first. */
const datesFacetSchema = object({
  kind: oneOf('dates'),
  label: text,
  by: oneOf('year', 'month', 'day'),
  values: listOf(facetValueSchema),
  more: yesOrNo,
  missing: count,
  /** The chosen range of dates, both ends inclusive, if one is chosen. */
  selected: orNull(object({ min: text, max: text }, 'min', 'max')),
});

export type DatesFacet = Of<typeof datesFacetSchema>;

/** The facets of an answer, by name: one schema a kind. */
export const facetAnswerSchema = as<ValuesFacet | NumbersFacet | TreeFacet | DatesFacet>({
  $id: 'FacetAnswer',
  ...kinds(valuesFacetSchema, numbersFacetSchema, treeFacetSchema, datesFacetSchema),
});

export type FacetAnswer = Of<typeof facetAnswerSchema>;

/** The values of one facet that a text was looked for in. */
export const facetValuesAnswerSchema = object({
  facet: text,
  q: text,
  values: listOf(object({ ...facetValue, ranges: rangesSchema })),
  /** Values that fit, listed or not. */
  total: count,
});

export type FacetValuesAnswer = Of<typeof facetValuesAnswerSchema>;
