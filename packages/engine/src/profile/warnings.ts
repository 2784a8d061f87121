import type { FieldRule, FieldWarning } from '@yucca/contract';
import { memoByObject } from '../memo/by-object.ts';
import { proposeForColumn, separatorOf } from '../rules/propose.ts';
import { readNumber } from '../rules/numbers.ts';
import type { FieldFacts } from './field-facts.ts';
import type { Shape } from './shapes.ts';

/** What a warning is looked for in. */
export interface Looked {
  facts: FieldFacts;
  /** Of the whole collection. */
  records: number;
  keyField: string;
}

/** One kind of warning: null where there is nothing to warn of. A new kind is a new entry of the list below. */
type Look = (looked: Looked) => FieldWarning | null;

const count = (value: number): string => value.toLocaleString('en');
const have = (value: number): string => `${count(value)} ${value === 1 ? 'value' : 'values'}`;
/** Nearly all: what this share of texts looks like, the field is. */
const NEARLY = 0.95;

function examplesOf({ facts }: Looked, fits: (text: string) => boolean = () => true): string[] {
  return [...new Set(facts.textExamples.filter(fits))].slice(0, 4).map((text) => text.slice(0, 80));
}

/** Numbers beside texts: whichever is rarer is lost to what reads the other. */
const mixedTypes: Look = (looked) => {
  const { facts, records } = looked;
  const [texts, numbers] = [facts.count('string'), facts.count('number')];
  if (texts === 0 || numbers === 0) return null;
  const readable = facts.textExamples.filter((text) => readNumber(text) !== undefined).length;
  const detail =
    numbers >= texts
      ? `${have(texts)} in ${count(records)} records ${texts === 1 ? 'is' : 'are'} text: a number facet and a sort leave ${texts === 1 ? 'it' : 'them'} out.`
      : `${have(numbers)} in ${count(records)} records ${numbers === 1 ? 'is a number' : 'are numbers'} among texts: sorting puts the two apart.`;
  return {
    code: 'mixed-types',
    detail,
    records: Math.min(texts, numbers),
    examples: examplesOf(looked),
    ...(numbers >= texts && readable > 0
      ? { repair: { field: facts.path, as: 'number' as const } }
      : numbers < texts
        ? { repair: { field: facts.path, as: 'text' as const } }
        : {}),
  };
};

const missing: Look = ({ facts, records }) => {
  const without = records - facts.records;
  if (records < 20 || without < records * 0.5) return null;
  const detail = `${count(without)} of ${count(records)} records lack it: choosing any value of it hides them.`;
  return { code: 'mostly-missing', detail, records: without, examples: [] };
};

const constant: Look = ({ facts, records }) => {
  if (records < 20 || facts.values < records * 0.5 || !facts.distinct.exact) return null;
  const [top] = facts.distinct.top(1);
  if (!top || top.count < facts.values * 0.98) return null;
  const detail = `${count(top.count)} of ${have(facts.values)} are the same: it tells nothing apart.`;
  return { code: 'almost-constant', detail, records: top.count, examples: [top.value.slice(0, 80)] };
};

/** A warning for texts that look like something which is not for reading. */
function looksLike(
  code: FieldWarning['code'],
  shape: Shape,
  detail: string,
  more: (looked: Looked) => Partial<FieldWarning> | null = () => ({}),
  from = NEARLY,
): Look {
  return (looked) => {
    const { facts, keyField } = looked;
    if (facts.texts.count === 0 || facts.share(shape) < from || facts.path === keyField) return null;
    const extra = more(looked);
    return extra && { code, detail, records: facts.records, examples: examplesOf(looked), ...extra };
  };
}

const onlyText = ({ facts }: Looked): boolean => facts.count('number') === 0 && facts.count('boolean') === 0;

/** The one rule that reads the texts of a field as numbers, dates or positions, with its unit, pattern or order. */
function ruleFor({ facts }: Looked, as: FieldRule['as']): FieldRule | null {
  const found = rulesOf(facts).filter((rule) => rule.as === as);
  return found.length === 1 || as === 'position' ? (found[0] ?? null) : null;
}

/** What the texts of a field are proposed to be read as; nothing of that kind is without a digit. */
const rulesOf = memoByObject(({ path, textExamples }: FieldFacts): FieldRule[] => {
  const texts = textExamples.filter((text) => text.trim() !== '' && text.length <= LONGEST_READ && /\d/.test(text));
  if (texts.length < textExamples.length * NEARLY || texts.length === 0) return [];
  return proposeForColumn(path, texts).map(({ rule }) => rule);
});

/** No number, date or position is longer. */
const LONGEST_READ = 120;

const numberAsText: Look = (looked) => {
  const { facts, keyField } = looked;
  if (facts.path === keyField || facts.texts.count === 0 || !onlyText(looked) || facts.share('date') >= NEARLY)
    return null;
  const rule = ruleFor(looked, 'number');
  if (rule === null && facts.share('number') < NEARLY) return null;
  return {
    code: 'looks-like-number',
    detail: 'Numbers written as text: no range, no sort by size, no signal until they are read as numbers.',
    records: facts.records,
    examples: examplesOf(looked),
    ...(rule === null ? {} : { repair: rule }),
  };
};

const dateAsText: Look = (looked) => {
  const { facts, keyField } = looked;
  if (facts.path === keyField || facts.texts.count === 0 || facts.share('isoDate') >= 0.5) return null;
  const rule = facts.share('date') >= NEARLY ? { field: facts.path, as: 'date' as const } : ruleFor(looked, 'date');
  if (rule === null) return null;
  return {
    code: 'looks-like-date',
    detail: 'Dates, but not ISO 8601: they sort by their letters and no date facet can count them.',
    records: facts.records,
    examples: examplesOf(looked),
    repair: rule,
  };
};

const positionAsText: Look = (looked) => {
  const rule = looked.facts.texts.count === 0 ? null : ruleFor(looked, 'position');
  if (rule === null) return null;
  return {
    code: 'looks-like-coordinates',
    detail: 'A position as text: for “near me” it must be a GeoJSON point or {lat, lng}.',
    records: looked.facts.records,
    examples: examplesOf(looked),
    repair: rule,
  };
};

/** Every kind of warning, those that cost most first. */
export const LOOKS: readonly Look[] = [
  mixedTypes,
  numberAsText,
  looksLike(
    'looks-like-boolean',
    'boolean',
    'Yes or no written as text: a filter with TRUE and FALSE does not find them.',
    (looked) => (onlyText(looked) ? { repair: { field: looked.facts.path, as: 'boolean' } } : null),
  ),
  dateAsText,
  looksLike('looks-like-json', 'json', 'JSON in a text: what is inside has no fields of its own.', ({ facts }) => ({
    repair: { field: facts.path, as: 'json' },
  })),
  looksLike(
    'looks-like-list',
    'separated',
    'Several values in one text: a facet counts each combination as a value of its own.',
    ({ facts }) => {
      const separator = facts.lists > 0 || facts.share('levels') > 0.5 ? null : separatorOf(facts.textExamples);
      return separator === null ? null : { repair: { field: facts.path, as: 'list', separator } };
    },
    0.2,
  ),
  positionAsText,
  looksLike(
    'looks-like-html',
    'html',
    'HTML: names of tags and classes would be found as words unless it is marked as HTML.',
    undefined,
    0.3,
  ),
  looksLike('looks-like-url', 'url', 'Addresses: searching them finds records by “https” and “com”.', ({ facts }) =>
    facts.share('picture') > 0.5 ? null : {},
  ),
  looksLike('looks-like-hash', 'hash', 'Checksums or tokens: nobody searches them, and they make the index larger.'),
  looksLike(
    'odd-spaces',
    'oddSpaces',
    'Spaces at an end or in a row: values that look the same are counted apart.',
    ({ facts }) => (facts.meanWords < 6 ? {} : null),
    0.01,
  ),
  constant,
  missing,
];
