import { completeTuning, type Tuning, type TuningDocument } from './tuning.ts';

/** One difference between two tunings, for a person. */
export interface TuningChange {
  /** The part of the document it lies in. */
  part: keyof Tuning;
  sentence: string;
}

type Named = { [name: string]: unknown };

const quote = (name: string): string => `“${name}”`;
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** How many items of a list are named before the rest is counted. */
const NAMED = 4;

function names(items: readonly string[]): string {
  const shown = items.slice(0, NAMED).map(quote).join(', ');
  return items.length > NAMED ? `${shown} and ${items.length - NAMED} more` : shown;
}

function said(value: unknown): string {
  if (value === null || value === undefined) return 'none';
  if (typeof value === 'boolean') return value ? 'on' : 'off';
  if (Array.isArray(value)) return value.length === 0 ? 'none' : value.map(said).join(', ');
  return typeof value === 'object' ? JSON.stringify(value) : String(value);
}

/** What came, went and changed between two lists of things that have names. */
function lists<T extends object>(
  before: readonly T[],
  after: readonly T[],
  nameOf: (item: T) => string,
  what: string,
  changed: (a: T, b: T) => string[],
): string[] {
  const old = new Map(before.map((item) => [nameOf(item), item]));
  const now = new Map(after.map((item) => [nameOf(item), item]));
  const added = [...now.keys()].filter((name) => !old.has(name));
  const gone = [...old.keys()].filter((name) => !now.has(name));
  const both = [...now.keys()].filter((name) => old.has(name));
  const sentences = [
    ...(added.length > 0 ? [`${what} added: ${names(added)}`] : []),
    ...(gone.length > 0 ? [`${what} removed: ${names(gone)}`] : []),
    ...both.flatMap((name) => changed(old.get(name)!, now.get(name)!)),
  ];
  const moved = !same(
    both,
    [...old.keys()].filter((name) => now.has(name)),
  );
  return moved ? [...sentences, `${what}: new order, ${names(both)}`] : sentences;
}

/** The properties that differ between two things of one name. */
function properties(prefix: string, before: object, after: object): string[] {
  const old = before as Named;
  return Object.entries(after)
    .filter(([name, value]) => !same(value, old[name]))
    .map(([name, value]) => `${prefix} ${name}: ${said(old[name])} → ${said(value)}`);
}

const wordsOf = (items: readonly string[]): { word: string }[] => items.map((word) => ({ word }));

/** What each part says of itself. A part that is not here is compared as a whole. */
const PARTS: { [P in keyof Tuning]?: (before: Tuning[P], after: Tuning[P]) => string[] } = {
  search: (before, after) =>
    lists(
      before,
      after,
      ({ field }) => field,
      'Searched fields',
      (a, b) => (a.weight === b.weight ? [] : [`${quote(b.field)} weight ${a.weight} → ${b.weight}`]),
    ),
  facets: (before, after) =>
    lists(
      before,
      after,
      ({ name }) => name,
      'Facets',
      (a, b) => properties(`Facet ${quote(b.name)}`, a, b),
    ),
  sorts: (before, after) =>
    lists(
      before,
      after,
      ({ name }) => name,
      'Sorts',
      (a, b) => properties(`Sort ${quote(b.name)}`, a, b),
    ),
  signals: (before, after) =>
    lists(
      before,
      after,
      ({ field }) => field,
      'Signals',
      (a, b) => properties(`Signal ${quote(b.field)}`, a, b),
    ),
  placements: (before, after) =>
    lists(
      before,
      after,
      ({ name }) => name,
      'Placements',
      (a, b) => (same(a, b) ? [] : [`Placement ${quote(b.name)} changed`]),
    ),
  synonyms: (before, after) => {
    const nameOf = (group: Tuning['synonyms'][number]): string =>
      group.kind === 'same' ? group.words.join(' = ') : `${group.from.join(', ')} → ${group.to.join(', ')}`;
    return lists(before, after, nameOf, 'Synonyms', () => []);
  },
  otherLanguages: (before, after) =>
    lists(
      before,
      after,
      ({ language }) => language,
      'Other languages',
      (a, b) => properties(`Language ${quote(b.language)}:`, a, b),
    ),
  stopWords: (before, after) =>
    lists(
      wordsOf(before),
      wordsOf(after),
      ({ word }) => word,
      'Stop words',
      () => [],
    ),
  snippets: (before, after) =>
    lists(
      before,
      after,
      ({ field }) => field,
      'Snippets',
      (a, b) => properties(`Snippet of ${quote(b.field)}`, a, b),
    ),
  words: (before, after) => properties('Words:', before, after),
  typos: ({ exactFields, exactWords, ...before }, { exactFields: fields, exactWords: words, ...after }) => [
    ...properties('Typos:', before, after),
    ...lists(
      wordsOf(exactFields),
      wordsOf(fields),
      ({ word }) => word,
      'Fields without typos',
      () => [],
    ),
    ...lists(
      wordsOf(exactWords),
      wordsOf(words),
      ({ word }) => word,
      'Words without typos',
      () => [],
    ),
  ],
  html: (before, after) =>
    lists(
      wordsOf(before),
      wordsOf(after),
      ({ word }) => word,
      'Fields with HTML',
      () => [],
    ),
};

const LABELS: { [P in keyof Tuning]?: string } = {
  language: 'Language',
  languageField: 'Field with the language',
  stems: 'Other forms of words',
  compounds: 'Words inside compounds',
  signalShare: 'Share of signals',
  group: 'Grouping',
  geo: 'Field with the position',
  show: 'Fields returned',
  hide: 'Fields never returned',
  mark: 'Fields marked',
};

/** What differs between two tunings, part by part, in sentences. Parts left out mean their defaults. */
export function tuningChanges(before: TuningDocument, after: TuningDocument): TuningChange[] {
  const [old, now] = [completeTuning(before), completeTuning(after)];
  return (Object.keys(now) as (keyof Tuning)[]).flatMap((part) => {
    if (same(old[part], now[part])) return [];
    const compare = PARTS[part] as ((a: unknown, b: unknown) => string[]) | undefined;
    const sentences = compare?.(old[part], now[part]) ?? [
      `${LABELS[part] ?? part}: ${said(old[part])} → ${said(now[part])}`,
    ];
    return sentences.map((sentence) => ({ part, sentence }));
  });
}
