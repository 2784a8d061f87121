import type { Tuning } from '@yucca/contract';
import { languagesOf } from '../text/languages.ts';
import { stemAlgorithm } from '../text/stem-languages.ts';
import { writesCompounds } from '../text/compounds.ts';
import { TEXT_RULES } from '../text/tokens.ts';

export { writesCompounds } from '../text/compounds.ts';
export { languagesOf, primaryLanguage } from '../text/languages.ts';
export { STEMMED } from '../text/stem-languages.ts';

/** What goes into an index. Made from the tunings that it must be able to answer. */
export interface IndexPlan {
  /** Which rules make words of its texts (TEXT_RULES); missing in what was made before there were others. */
  textRules?: number;
  /** BCP 47 tags: whose stems are kept beside the words. */
  languages: readonly string[];
  /** Whether words are found by their ends, for parts of compounds; missing where it was not known yet. */
  wordEnds?: boolean;
  /** Fields whose HTML tags are not words. */
  html: readonly string[];
  /** Whether every field that holds a string in some record is searchable, besides `searchFields`. */
  allStrings: boolean;
  /** Searchable field paths. At most 60 fields are kept in all. */
  searchFields: readonly string[];
  /**
   * Fields that must have columns of all their values: those of groups, of facets that list values, and of languages.
   * Others have one of their texts when it is small.
   */
  columns: readonly string[];
  /**
   * Fields of which texts and numbers must have columns, each by themselves: those of sorts, signals and ranges.
   * Missing in what was made before these were told apart; then they stand among `columns`.
   */
  ordering?: readonly string[];
  /** For facets that show another field's text for each value. */
  labels: readonly { field: string; labelField: string }[];
  /** Fields that hold positions. */
  geo: readonly string[];
}

const distinct = (list: readonly string[]): string[] => [...new Set(list)].sort();

/** What must be indexed so that all of these tunings can answer. */
export function planFor(tunings: readonly Tuning[]): IndexPlan {
  const labels = new Map<string, { field: string; labelField: string }>();
  for (const { field, labelField, kind } of tunings.flatMap(({ facets }) => facets)) {
    // A range lists no values that could have labels.
    if (labelField !== null && kind !== 'numbers') labels.set(`${field}\u0000${labelField}`, { field, labelField });
  }
  const columns = distinct(
    tunings.flatMap(({ facets, group, languageField, otherLanguages }) => [
      ...facets.flatMap(({ kind, field }) => (kind === 'numbers' ? [] : [field])),
      ...(group === null ? [] : [group.field]),
      ...(languageField === null || otherLanguages.length === 0 ? [] : [languageField]),
    ]),
  );
  return {
    textRules: TEXT_RULES,
    languages: distinct(
      tunings.flatMap((tuning) =>
        tuning.stems ? languagesOf(tuning).filter((language) => stemAlgorithm(language) !== null) : [],
      ),
    ),
    ...(tunings.some((tuning) => tuning.compounds && languagesOf(tuning).some(writesCompounds))
      ? { wordEnds: true }
      : {}),
    html: distinct(tunings.flatMap(({ html }) => html)),
    allStrings: tunings.some(({ search }) => search.length === 0),
    searchFields: distinct(tunings.flatMap(({ search }) => search.map(({ field }) => field))),
    columns,
    ordering: distinct(
      tunings.flatMap(({ facets, sorts, signals }) => [
        ...facets.flatMap(({ kind, field }) => (kind === 'numbers' ? [field] : [])),
        ...sorts.flatMap(({ by }) => by.map(({ field }) => field)),
        ...signals.map(({ field }) => field),
      ]),
    ).filter((field) => !columns.includes(field)),
    labels: [...labels.values()],
    geo: distinct(tunings.flatMap(({ geo }) => (geo === null ? [] : [geo]))),
  };
}

/** Whether an index makes words of texts as is asked for: by the rules of today, and with the ends of words. */
export const isCurrent = (have: IndexPlan, want: IndexPlan): boolean =>
  have.textRules === want.textRules && (have.wordEnds === true || want.wordEnds !== true);

/**
 * Whether an index need not be made anew. One that covers what is asked and is not current answers while it is made
 * again beside that: some words and parts of compounds are not found till then.
 */
export const isUpToDate = (have: IndexPlan, want: IndexPlan): boolean => covers(have, want) && isCurrent(have, want);

/** Whether an index made by one plan can answer what another asks for, without a rebuild. */
export function covers(have: IndexPlan, want: IndexPlan): boolean {
  const holds = (all: readonly string[], some: readonly string[]): boolean => some.every((one) => all.includes(one));
  return (
    (have.allStrings || !want.allStrings) &&
    holds(have.searchFields, want.searchFields) &&
    holds(have.columns, want.columns) &&
    holds([...have.columns, ...(have.ordering ?? [])], want.ordering ?? []) &&
    holds(have.languages, want.languages) &&
    holds(have.geo, want.geo) &&
    // Tags are words or they are not: the same text cannot be indexed both ways.
    have.html.join('\n') === want.html.join('\n') &&
    want.labels.every(({ field, labelField }) =>
      have.labels.some((label) => label.field === field && label.labelField === labelField),
    )
  );
}

/**
 * The plan that segments made by `have` fulfil as well, because they hold columns that `want` asks for though nobody
 * had asked: a facet, a sort or a signal more needs no new index then. `have` itself when there is none.
 */
export function widened(have: IndexPlan, want: IndexPlan, segments: readonly HoldsColumns[]): IndexPlan {
  const held = (fields: readonly string[], holds: (segment: HoldsColumns, field: string) => boolean): string[] =>
    fields.filter((field) => segments.every((segment) => holds(segment, field)));
  const columns = held(missing(have.columns, want.columns), (segment, field) => segment.holdsAllValues(field));
  const known = [...have.columns, ...columns, ...(have.ordering ?? [])];
  const ordering = held(missing(known, want.ordering ?? []), (segment, field) => segment.holdsOrdering(field));
  if (columns.length + ordering.length === 0) return have;
  return {
    ...have,
    columns: distinct([...have.columns, ...columns]),
    ordering: distinct([...(have.ordering ?? []), ...ordering]),
  };
}

/** Columns and positions that a column segment holds; see IndexPlan. */
export interface AddedColumns {
  columns: readonly string[];
  ordering: readonly string[];
  labels: IndexPlan['labels'];
  geo: readonly string[];
}

/**
 * What has to be added to an index made by one plan so that it can answer what another asks for, when that is no more
 * than columns; null when its words would be others too.
 */
export function missingColumns(have: IndexPlan, want: IndexPlan): AddedColumns | null {
  const { columns, ordering = [], labels, geo } = want;
  const isWordForWord = isUpToDate(have, { ...want, columns: [], ordering: [], labels: [], geo: [] });
  if (!isWordForWord) return null;
  const isKnown = (label: IndexPlan['labels'][number]): boolean =>
    have.labels.some(({ field, labelField }) => field === label.field && labelField === label.labelField);
  const relabelled = labels.flatMap((label) => (isKnown(label) ? [] : [label.field]));
  // Labels stand in the column of their field: with one more it is made anew, with all of its labels.
  const added = distinct([...missing(have.columns, columns), ...relabelled]);
  return {
    columns: added,
    ordering: missing([...have.columns, ...(have.ordering ?? []), ...added], ordering),
    labels: labels.filter(({ field }) => added.includes(field)),
    geo: missing(have.geo, geo),
  };
}

/** The plan of an index to which columns were added. */
export const withColumns = (plan: IndexPlan, { columns, ordering, labels, geo }: AddedColumns): IndexPlan => ({
  ...plan,
  columns: distinct([...plan.columns, ...columns]),
  ordering: distinct([...(plan.ordering ?? []), ...ordering]).filter((field) => !columns.includes(field)),
  labels: [...plan.labels.filter(({ field }) => !columns.includes(field)), ...labels],
  geo: distinct([...plan.geo, ...geo]),
});

const missing = (all: readonly string[], wanted: readonly string[]): string[] =>
  wanted.filter((one) => !all.includes(one));

/** What is asked of a segment when a plan is widened. */
interface HoldsColumns {
  /** Whether it holds every value of a field, as if its plan had named the field among `columns`. */
  holdsAllValues: (field: string) => boolean;
  /** The same for `ordering`. */
  holdsOrdering: (field: string) => boolean;
}
