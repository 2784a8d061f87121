import {
  LIMITS,
  readableName,
  tuningSchema,
  type FacetKind,
  type FieldProfile,
  type FieldProposal,
  type SignalShape,
  type TuningDocument,
} from '@yucca/contract';
import { primaryLanguage } from '@yucca/engine/plan';

/** What a field does in a tuning. */
export interface Roles {
  /** Null = not searched. `implicit`: nothing is named, so every text field is searched alike. */
  search: { weight: number; implicit: boolean } | null;
  facet: FacetKind | null;
  sort: boolean;
  shown: boolean;
  marked: boolean;
  snippet: boolean;
  signal: SignalShape | null;
  exact: boolean;
  html: boolean;
  geo: boolean;
  /** The language of its texts, where it is not that of all others (BCP 47 tag). */
  language: string | null;
  /** Whether it tells the language of its record. */
  tellsLanguage: boolean;
}

const isText = ({ types }: FieldProfile): boolean => (types.string ?? 0) > 0;

export function rolesOf(document: TuningDocument, field: FieldProfile): Roles {
  const { path } = field;
  const search = document.search ?? [];
  const named = search.find((one) => one.field === path);
  const implicit = search.length === 0 && isText(field);
  const show = document.show ?? ['*'];
  const mark = document.mark ?? ['*'];
  return {
    search: named ? { weight: named.weight ?? 1, implicit: false } : implicit ? { weight: 1, implicit: true } : null,
    facet: ((facet) => (facet ? (facet.kind ?? 'values') : null))(document.facets?.find((one) => one.field === path)),
    sort: (document.sorts ?? []).some(({ by }) => by[0]?.field === path),
    shown: covers(show, path) && !covers(document.hide ?? [], path),
    marked: covers(mark, path),
    snippet: (document.snippets ?? []).some((one) => one.field === path),
    signal: ((signal) => (signal ? (signal.shape ?? 'linear') : null))(
      document.signals?.find((one) => one.field === path),
    ),
    exact: (document.typos?.exactFields ?? []).includes(path),
    html: (document.html ?? []).includes(path),
    geo: document.geo === path,
    language: document.otherLanguages?.find(({ fields }) => fields?.includes(path))?.language ?? null,
    tellsLanguage: document.languageField === path,
  };
}

/** Whether a list of paths names a field, a level above it, or everything. */
function covers(paths: readonly string[], path: string): boolean {
  return paths.some((one) => one === '*' || one === path || path.startsWith(`${one}.`));
}

const MOST_SEARCHED = tuningSchema.properties.search.maxItems;
/** Of a facet's name; a field's path may be longer. */
const LONGEST_NAME = 120;

const without = <T extends { field: string }>(list: readonly T[] | undefined, path: string): T[] =>
  (list ?? []).filter(({ field }) => field !== path);

/** Every text field alike, as many as a tuning may name; one of them, or one to come, is the field at a path. */
function allTexts(fields: readonly FieldProfile[], path: string): { field: string; weight: number }[] {
  const texts = fields.filter(isText).map((field) => ({ field: field.path, weight: 1 }));
  const first = texts.slice(0, MOST_SEARCHED);
  return first.some(({ field }) => field === path) ? first : first.slice(0, MOST_SEARCHED - 1);
}

/** Searches a field with a weight, or no longer (null). Where all were searched alike, they are named first. */
export function withSearch(
  document: TuningDocument,
  path: string,
  weight: number | null,
  fields: readonly FieldProfile[],
): TuningDocument {
  const named = document.search?.length ? document.search : allTexts(fields, path);
  if (weight === null) return { ...document, search: without(named, path) };
  const known = named.some(({ field }) => field === path);
  const search = known
    ? named.map((one) => (one.field === path ? { ...one, weight } : one))
    : [...named, { field: path, weight }];
  return { ...document, search };
}

/** Offers a field as a facet, or no longer (null). */
export function withFacet(
  document: TuningDocument,
  path: string,
  kind: FacetKind | null,
  proposal: FieldProposal['facet'] = null,
): TuningDocument {
  const facets = document.facets ?? [];
  if (kind === null) return { ...document, facets: without(facets, path) };
  if (facets.some(({ field }) => field === path))
    return { ...document, facets: facets.map((one) => (one.field === path ? { ...one, kind } : one)) };
  const name = freeName(
    (proposal?.labelField ? parentOf(path) : path).slice(-LONGEST_NAME),
    new Set(facets.map((one) => one.name)),
  );
  const made = {
    name,
    field: path,
    kind,
    ...(kind === 'tree' && proposal?.separator ? { separator: proposal.separator } : {}),
    ...(proposal?.label === undefined ? {} : { label: proposal.label }),
    ...(kind === 'values' && proposal?.labelField ? { labelField: proposal.labelField } : {}),
  };
  return { ...document, facets: [...facets, made] };
}

const parentOf = (path: string): string => path.slice(0, path.lastIndexOf('.'));

function freeName(wanted: string, taken: ReadonlySet<string>): string {
  for (let n = 1; ; n++) {
    const name = n === 1 ? wanted : `${wanted}-${n}`;
    if (!taken.has(name)) return name;
  }
}

/** Puts the facets into another order: the one of the page. */
export function withFacetOrder(document: TuningDocument, names: readonly string[]): TuningDocument {
  const place = (name: string): number => names.indexOf(name);
  return { ...document, facets: [...(document.facets ?? [])].sort((a, b) => place(a.name) - place(b.name)) };
}

type Facet = NonNullable<TuningDocument['facets']>[number];
/** Parts of a facet to change; undefined takes a part away, so that its default holds. */
export type FacetChange = { [part in keyof Facet]?: Facet[part] | undefined };

/** Changes how a facet is offered. */
export function withFacetPart(document: TuningDocument, path: string, change: FacetChange): TuningDocument {
  const changed = (facet: Facet): Facet =>
    Object.fromEntries(Object.entries({ ...facet, ...change }).filter(([, value]) => value !== undefined)) as Facet;
  return { ...document, facets: (document.facets ?? []).map((one) => (one.field === path ? changed(one) : one)) };
}

/** Offers the sorts that a field is good for, or takes away those that begin with it. */
export function withSort(document: TuningDocument, field: FieldProfile, on: boolean): TuningDocument {
  const rest = (document.sorts ?? []).filter(({ by }) => by[0]?.field !== field.path);
  if (!on) return { ...document, sorts: rest };
  const taken = new Set(rest.map(({ name }) => name));
  const slug =
    field.path
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^[^a-z]+|-+$/g, '')
      .slice(0, 50) || 'sort';
  const made = sortsFor(field).map(({ end, label, order }) => {
    const name = freeName(`${slug}-${end}`, taken);
    return { name, label, by: [{ field: field.path, order }] };
  });
  return { ...document, sorts: [...rest, ...made] };
}

function sortsFor({ path, numbers, dates }: FieldProfile): { end: string; label: string; order: 'asc' | 'desc' }[] {
  const name = readableName(path);
  if (numbers !== null)
    return [
      { end: 'low', label: `${name}, low to high`, order: 'asc' },
      { end: 'high', label: `${name}, high to low`, order: 'desc' },
    ];
  if (dates !== null) return [{ end: 'newest', label: 'Newest first', order: 'desc' }];
  return [{ end: 'a-z', label: `${name}, A to Z`, order: 'asc' }];
}

/** Returns a field with results, or keeps it back. */
export function withShown(document: TuningDocument, path: string, on: boolean): TuningDocument {
  const hide = (document.hide ?? []).filter((one) => one !== path);
  const show = document.show ?? ['*'];
  if (!on) return { ...document, hide: [...hide, path] };
  return { ...document, hide, ...(covers(show, path) ? {} : { show: [...show, path] }) };
}

/** Marks what matched in a field, or does not. */
export function withMarked(
  document: TuningDocument,
  path: string,
  on: boolean,
  fields: readonly FieldProfile[],
): TuningDocument {
  const mark = document.mark ?? ['*'];
  if (on) return { ...document, mark: [...mark, path] };
  const named = mark.includes('*') ? fields.map((field) => field.path) : mark;
  return { ...document, mark: named.filter((one) => one !== path) };
}

export function withSnippet(document: TuningDocument, path: string, on: boolean): TuningDocument {
  const snippets = without(document.snippets, path);
  return { ...document, snippets: on ? [...snippets, { field: path }] : snippets };
}

export function withSignal(document: TuningDocument, path: string, shape: Roles['signal']): TuningDocument {
  const signals = document.signals ?? [];
  if (shape === null) return { ...document, signals: without(signals, path) };
  const known = signals.some(({ field }) => field === path);
  return {
    ...document,
    signals: known
      ? signals.map((one) => (one.field === path ? { ...one, shape } : one))
      : [...signals, { field: path, shape }],
  };
}

/** Whether typos are forgiven in a field. */
export function withExact(document: TuningDocument, path: string, on: boolean): TuningDocument {
  const rest = (document.typos?.exactFields ?? []).filter((one) => one !== path);
  return { ...document, typos: { ...document.typos, exactFields: on ? [...rest, path] : rest } };
}

export function withHtml(document: TuningDocument, path: string, on: boolean): TuningDocument {
  const rest = (document.html ?? []).filter((one) => one !== path);
  return { ...document, html: on ? [...rest, path] : rest };
}

export function withGeo(document: TuningDocument, path: string, on: boolean): TuningDocument {
  return { ...document, geo: on ? path : null };
}

type Language = NonNullable<TuningDocument['otherLanguages']>[number];

/** Says in which language a field's texts are; null = in the one of all others. */
export function withLanguage(document: TuningDocument, path: string, language: string | null): TuningDocument {
  const others = (document.otherLanguages ?? []).map((one): Language => {
    const rest = (one.fields ?? []).filter((field) => field !== path);
    return { ...one, fields: one.language === language ? [...rest, path] : rest };
  });
  const isKnown = language === null || others.some((one) => one.language === language);
  return { ...document, otherLanguages: isKnown ? others : [...others, { language, fields: [path] }] };
}

/** Takes the language of each record from a field, or no longer (null). `languages`: those that it names. */
export function withLanguageField(
  document: TuningDocument,
  path: string | null,
  languages: readonly string[] = [],
): TuningDocument {
  const others = document.otherLanguages ?? [];
  const known = [document.language ?? 'en', ...others.map(({ language }) => language)].map(primaryLanguage);
  const added = languages.filter((language) => !known.includes(primaryLanguage(language)));
  const otherLanguages = [...others, ...added.map((language): Language => ({ language, fields: [] }))];
  return { ...document, languageField: path, otherLanguages: otherLanguages.slice(0, LIMITS.otherLanguages) };
}

/** Whether what is proposed of a field's language is not said yet: the language of all texts need not be. */
function isLanguageOpen(document: TuningDocument, field: FieldProfile): boolean {
  const proposed = field.proposal.language;
  if (!proposed) return false;
  if (proposed.of === 'records') return !document.languageField;
  return (
    rolesOf(document, field).language === null && primaryLanguage(document.language ?? 'en') !== proposed.languages[0]
  );
}

/** What of a proposal a tuning does not do yet. */
export function openProposals(document: TuningDocument, field: FieldProfile): (keyof FieldProposal)[] {
  const { proposal } = field;
  const roles = rolesOf(document, field);
  const open: (keyof FieldProposal)[] = [];
  if (proposal.search && (roles.search === null || roles.search.implicit)) open.push('search');
  if (proposal.facet && !proposal.facet.further && roles.facet === null) open.push('facet');
  if (proposal.sort && !proposal.sort.further && !roles.sort) open.push('sort');
  if (proposal.signal && roles.signal === null) open.push('signal');
  if (!proposal.show.shown && roles.shown) open.push('show');
  if (proposal.snippet && !roles.snippet) open.push('snippet');
  if (proposal.html && !roles.html) open.push('html');
  if (isLanguageOpen(document, field)) open.push('language');
  if (proposal.geo && !document.geo) open.push('geo');
  return open;
}

const LISTS = ['search', 'facets', 'sorts', 'signals', 'hide', 'snippets', 'html', 'otherLanguages'] as const;

const isWithinLimits = (document: TuningDocument): boolean =>
  LISTS.every((part) => (document[part]?.length ?? 0) <= tuningSchema.properties[part].maxItems);

/** Takes over everything that the profile proposes: a first tuning worth trying. */
export function withProposals(document: TuningDocument, fields: readonly FieldProfile[]): TuningDocument {
  // The proposals say which fields are searched; what was searched only for want of a choice is not.
  const proposed = fields.some(({ proposal }) => proposal.search !== null);
  const start: TuningDocument =
    proposed && !document.search?.length
      ? {
          ...document,
          search: heaviest(
            fields.flatMap(({ path, proposal }) =>
              proposal.search ? [{ field: path, weight: proposal.search.weight }] : [],
            ),
          ),
        }
      : document;
  return fields.reduce((now, field) => withProposal(now, field, fields), start);
}

/** As many searched fields as a tuning may have, in their order; of more the ones that weigh least are left out. */
function heaviest(search: { field: string; weight: number }[]): { field: string; weight: number }[] {
  const kept = new Set([...search].sort((a, b) => b.weight - a.weight).slice(0, MOST_SEARCHED));
  return search.filter((one) => kept.has(one));
}

/** Takes over what is proposed for one field. */
export function withProposal(
  document: TuningDocument,
  field: FieldProfile,
  fields: readonly FieldProfile[],
): TuningDocument {
  const { path, proposal } = field;
  const take: { [role in keyof FieldProposal]: (now: TuningDocument) => TuningDocument } = {
    search: (now) => withSearch(now, path, proposal.search!.weight, fields),
    facet: (now) => withFacet(now, path, proposal.facet!.kind, proposal.facet),
    sort: (now) => withSort(now, field, true),
    signal: (now) => withSignal(now, path, proposal.signal!.shape),
    show: (now) => withShown(now, path, false),
    snippet: (now) => withSnippet(now, path, true),
    html: (now) => withHtml(now, path, true),
    language: (now) => {
      const { of, languages } = proposal.language!;
      return of === 'texts' ? withLanguage(now, path, languages[0]!) : withLanguageField(now, path, languages);
    },
    geo: (now) => withGeo(now, path, true),
  };
  return openProposals(document, field).reduce((now, role) => {
    const next = take[role](now);
    // A tuning that holds as much as it may is left as it is: the server would refuse more.
    return isWithinLimits(next) ? next : now;
  }, document);
}
