import type { FromSchema } from 'json-schema-to-ts';
import type { FacetKind } from './facets.ts';
import { completePlacement, type Placement } from './placement.ts';
import type { SignalShape } from './signal-shapes.ts';
import type { tuningSchema } from './tuning-schema.ts';

/** A tuning document as a person or a script writes it: every part may be left out. */
export type TuningDocument = FromSchema<typeof tuningSchema, { keepDefaultedPropertiesOptional: true }>;

export interface SearchField {
  field: string;
  weight: number;
}

export interface LanguageRule {
  language: string;
  /** Fields whose texts are in it, whatever the record. */
  fields: string[];
}

export interface TypoRules {
  enabled: boolean;
  oneFrom: number;
  twoFrom: number;
  firstLetter: boolean;
  numbers: boolean;
  exactFields: string[];
  exactWords: string[];
}

export interface WordRules {
  require: 'all' | 'most' | 'any';
  prefix: 'last' | 'all' | 'none';
}

export type SynonymGroup = { kind: 'same'; words: string[] } | { kind: 'oneWay'; from: string[]; to: string[] };

export interface FacetRule {
  name: string;
  field: string;
  /** A field beside `field`, even inside arrays of objects, with the name to show for each value. */
  labelField: string | null;
  kind: FacetKind;
  match: 'any' | 'all';
  order: 'count' | 'value';
  size: number;
  label: string;
  /** numbers: edges, ascending; null = parted evenly. */
  buckets: number[] | null;
  /** tree: what stands between the levels. */
  separator: string;
  /** dates: how finely they are told apart. */
  by: 'year' | 'month' | 'day';
}

export interface SortKey {
  field: string;
  order: 'asc' | 'desc';
}

export interface SortRule {
  name: string;
  label: string;
  by: SortKey[];
}

export interface SignalRule {
  field: string;
  order: 'asc' | 'desc';
  weight: number;
  shape: SignalShape;
  halfLifeDays: number;
}

/** A tuning document with every default filled in. */
export interface Tuning {
  language: string;
  /** Languages of some texts: of fields, and of records that name one in `languageField`. */
  otherLanguages: LanguageRule[];
  languageField: string | null;
  search: SearchField[];
  words: WordRules;
  typos: TypoRules;
  stems: boolean;
  compounds: boolean;
  stopWords: string[];
  synonyms: SynonymGroup[];
  facets: FacetRule[];
  sorts: SortRule[];
  signals: SignalRule[];
  signalShare: number;
  placements: Placement[];
  group: { field: string; keep: number } | null;
  geo: string | null;
  show: string[];
  hide: string[];
  mark: string[];
  snippets: { field: string; words: number }[];
  html: string[];
}

/**
 * "height_cm" → "Height cm", "flowerMonths" → "Flower months": a field's name as a person would write it. Capitals that
 * only begin the next word become small; those that somebody meant (`MPAA Rating`, `US_Gross`) stay.
 */
export function readableName(field: string): string {
  const words = field
    .replace(
      /([\p{L}\d])(\p{Lu})(?=\p{Ll})/gu,
      (_, before: string, capital: string) => `${before} ${capital.toLowerCase()}`,
    )
    .replace(/([\p{Ll}\d])(\p{Lu})/gu, '$1 $2')
    .replace(/[._\s-]+/g, ' ')
    .trim();
  return (words || field).replace(/^./u, (first) => first.toUpperCase());
}

/** Fills in the defaults of a validated document. */
export function completeTuning(document: TuningDocument): Tuning {
  const typos: NonNullable<TuningDocument['typos']> = document.typos ?? {};
  return {
    language: document.language ?? 'en',
    otherLanguages: (document.otherLanguages ?? []).map(({ language, fields }) => ({ language, fields: fields ?? [] })),
    languageField: document.languageField ?? null,
    search: (document.search ?? []).map(({ field, weight }) => ({ field, weight: weight ?? 1 })),
    words: { require: document.words?.require ?? 'all', prefix: document.words?.prefix ?? 'last' },
    typos: {
      enabled: typos.enabled ?? true,
      oneFrom: typos.oneFrom ?? 4,
      twoFrom: typos.twoFrom ?? 8,
      firstLetter: typos.firstLetter ?? true,
      numbers: typos.numbers ?? false,
      exactFields: typos.exactFields ?? [],
      exactWords: typos.exactWords ?? [],
    },
    stems: document.stems ?? true,
    compounds: document.compounds ?? true,
    stopWords: document.stopWords ?? [],
    synonyms: (document.synonyms ?? []) as SynonymGroup[],
    facets: (document.facets ?? []).map(completeFacet),
    sorts: (document.sorts ?? []).map(({ name, label, by }) => ({
      name,
      label: label ?? readableName(name),
      by: by.map(({ field, order }) => ({ field, order: order ?? 'asc' })),
    })),
    signals: (document.signals ?? []).map((signal) => ({
      field: signal.field,
      order: signal.order ?? 'desc',
      weight: signal.weight ?? 1,
      shape: signal.shape ?? 'linear',
      halfLifeDays: signal.halfLifeDays ?? 90,
    })),
    signalShare: document.signalShare ?? 0.2,
    placements: (document.placements ?? []).map(completePlacement),
    group: document.group ? { field: document.group.field, keep: document.group.keep ?? 1 } : null,
    geo: document.geo ?? null,
    show: document.show ?? ['*'],
    hide: document.hide ?? [],
    mark: document.mark ?? ['*'],
    snippets: (document.snippets ?? []).map(({ field, words }) => ({ field, words: words ?? 24 })),
    html: document.html ?? [],
  };
}

function completeFacet(facet: NonNullable<TuningDocument['facets']>[number]): FacetRule {
  return {
    name: facet.name,
    field: facet.field,
    labelField: facet.labelField ?? null,
    kind: facet.kind ?? 'values',
    match: facet.match ?? 'any',
    order: facet.order ?? 'count',
    size: facet.size ?? 20,
    label: facet.label ?? readableName(facet.name),
    buckets: facet.buckets ?? null,
    separator: facet.separator ?? ' > ',
    by: facet.by ?? 'month',
  };
}
