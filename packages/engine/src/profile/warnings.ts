import type { FieldWarning } from '@yucca/contract';
import { separatorOf } from '../rules/propose.ts';
import { readNumber } from '../rules/coercions.ts';
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
      ? { repair: { as: 'number' as const } }
      : numbers < texts
        ? { repair: { as: 'text' as const } }
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

/** Every kind of warning, those that cost most first. */
export const LOOKS: readonly Look[] = [
  mixedTypes,
  looksLike(
    'looks-like-number',
    'number',
    'Numbers written as text: no range, no sort by size, no signal until they are read as numbers.',
    (looked) => (onlyText(looked) ? { repair: { as: 'number' } } : null),
  ),
  looksLike(
    'looks-like-boolean',
    'boolean',
    'Yes or no written as text: a filter with TRUE and FALSE does not find them.',
    (looked) => (onlyText(looked) ? { repair: { as: 'boolean' } } : null),
  ),
  looksLike(
    'looks-like-date',
    'date',
    'Dates, but not ISO 8601: they sort by their letters and no date facet can count them.',
    ({ facts }) => (facts.share('isoDate') < 0.5 ? { repair: { as: 'date' } } : null),
  ),
  looksLike('looks-like-json', 'json', 'JSON in a text: what is inside has no fields of its own.', () => ({
    repair: { as: 'json' },
  })),
  looksLike(
    'looks-like-list',
    'separated',
    'Several values in one text: a facet counts each combination as a value of its own.',
    ({ facts }) => {
      const separator = facts.lists > 0 || facts.share('levels') > 0.5 ? null : separatorOf(facts.textExamples);
      return separator === null ? null : { repair: { as: 'list', separator } };
    },
    0.2,
  ),
  looksLike(
    'looks-like-coordinates',
    'coordinates',
    'A place as text: for “near me” it must be a GeoJSON point or {lat, lng}.',
  ),
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
