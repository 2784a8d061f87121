import { completeTuning, type SignalRule, type TuningDocument } from '@yucca/contract';
import { parseQuery } from '../src/query/parse/parse-query.ts';
import { compiledOf, Synonyms, synonymSpans } from '../src/query/parse/synonyms.ts';
import { shaped } from '../src/signals/shapes.ts';
import { parseDate } from '../src/columns/times.ts';
import { stemmerFor } from '../src/text/stem.ts';
import { blankTags, splitAtDigits, tokens } from '../src/text/tokens.ts';

const parse = (q: string, document: TuningDocument = {}) => parseQuery(q, completeTuning(document));
const brief = (q: string, document?: TuningDocument) =>
  parse(q, document).words.map(({ text, prefix, phrase }) => (phrase ? `"${text}"` : prefix ? `${text}…` : text));

test.each([
  ['red ro', ['red', 'ro…']],
  ['red ro ', ['red', 'ro']],
  ['"snake plant" pot', ['"snake plant"', 'pot…']],
  ['“à la carte”', ['"a la carte"']],
  ['the "open quote', ['the', 'open', 'quote…']],
  ['wi-fi', ['wi', 'fi…']],
  ['rose -climbing -"wild rose" red', ['rose', 'red…']],
  ['a - b', ['a', 'b…']],
  ['""  "-" !', []],
])('%s is read as %j', (q, expected) => {
  expect(brief(q)).toEqual(expected);
});

test('what must not be there, and which words may be unfinished, as the tuning says', () => {
  const { excluded } = parse('rose -Climbing -"wild rose"');
  expect(excluded.map(({ phrase }) => phrase)).toEqual([['wild', 'rose'], ['climbing']]);
  expect(brief('red ro', { words: { prefix: 'all' } })).toEqual(['red…', 'ro…']);
  expect(brief('red ro', { words: { prefix: 'none' } })).toEqual(['red', 'ro']);
});

test('stop words may be missing, unless there is nothing else', () => {
  const optional = (q: string): boolean[] => parse(q, { stopWords: ['The', 'of'] }).words.map((word) => word.optional);
  expect(optional('the rose of')).toEqual([true, false, true]);
  expect(optional('of the')).toEqual([false, false]);
});

test('words past the limit are named, those of phrases counted', () => {
  const long = Array.from({ length: 34 }, (_, i) => `w${i}`).join(' ');
  expect(parse(long).words).toHaveLength(32);
  expect(parse(long).dropped).toEqual(['w32', 'w33']);
  expect(parse(`"${long}" rose`)).toMatchObject({ words: [{ text: 'rose' }], dropped: [`"${long}"`] });
});

test('phrases past the limit are named too, and so is what is excluded past it', () => {
  const phrases = ['a b', 'c d', 'e f', 'g h'].map((phrase) => `"${phrase}"`);
  const asked = parse(`${phrases.join(' ')} "rose" mint`);
  expect(asked.words.map(({ text }) => text)).toEqual(['a b', 'c d', 'e f', 'rose', 'mint']);
  expect(asked.dropped).toEqual(['"g h"']);
  const unwanted = parse(`mint ${phrases.map((phrase) => `-${phrase}`).join(' ')} -rose`);
  expect(unwanted.excluded.map(({ text }) => text)).toEqual(['a b', 'c d', 'e f', 'rose']);
  expect(unwanted.dropped).toEqual(['-"g h"']);
  const both = parse(`"a b" "c d" -"e f" -"g h"`);
  expect([both.words.length, both.excluded.length, both.dropped]).toEqual([2, 1, ['-"g h"']]);
});

test('synonyms: one step, several words, other forms of them', () => {
  const synonyms = new Synonyms(
    [
      { kind: 'same', words: ['snake plant', 'sansevieria', 'Snake Plant'] },
      { kind: 'oneWay', from: ['succulents'], to: ['aloe'] },
      { kind: 'oneWay', from: ['!'], to: ['?'] },
    ],
    'en',
  );
  expect(synonyms.spans(['red', 'snake', 'plants'])).toEqual([{ from: 1, to: 3, as: ['sansevieria'] }]);
  expect(synonyms.spans(['sansevieria']).map(({ as }) => as)).toEqual([['snake', 'plant']]);
  expect(synonyms.spans(['succulent']).map(({ as }) => as)).toEqual([['aloe']]);
  expect(synonyms.spans(['aloe'])).toEqual([]);
  expect(synonyms.spans(['snake', null, 'plant'])).toEqual([]);
});

test('tokens: words, parts of codes, joined forms, each with its position', () => {
  const list = (source: string): string[] => tokens(source).map(({ text, position }) => `${text}@${position}`);
  expect(list('AG-204/B')).toEqual(['ag@0', '204@1', 'b@2', 'ag204b@0', 'ag204@0', '204b@1']);
  expect(list('3.5mm x')).toEqual(['3@0', '5mm@1', '5@1', 'mm@1', 'x@2', '35mm@0']);
  expect(list('wi-fi, a – b')).toEqual(['wi@0', 'fi@1', 'a@2', 'wifi@0', 'b@3']);
  expect(list('a/b/c/d/e').slice(5)).toEqual(['ab@0', 'bc@1', 'cd@2', 'de@3']);
  expect(splitAtDigits('ag204b')).toEqual(['ag', '204', 'b']);
  expect(blankTags('<b>Rose</b>&amp;fern')).toBe('   Rose         fern');
});

test('stems in the languages of the design, and none elsewhere', () => {
  const stem = (language: string, word: string) => stemmerFor(language)!(word);
  expect(stem('en', 'watering')).toBe(stem('en-GB', 'water'));
  for (const [language, one, other] of [
    ['de', 'hauser', 'haus'],
    ['fr', 'maisons', 'maison'],
    ['es', 'flores', 'flor'],
    ['it', 'piante', 'pianta'],
    ['nl', 'planten', 'plant'],
    ['pt', 'plantas', 'planta'],
    ['sv', 'blommor', 'blommorna'],
  ] as const) {
    expect([language, stem(language, one)]).toEqual([language, stem(language, other)]);
  }
  expect(stemmerFor('und')).toBeNull();
  expect(stem('en', 'ag204s')).toBe('ag204s');
});

test('signals on their shapes', () => {
  const rule = (more: Partial<SignalRule>): SignalRule => {
    return { field: 'x', order: 'desc', weight: 1, shape: 'linear', halfLifeDays: 10, ...more };
  };
  const extent = { min: 0, max: 100 };
  expect(shaped(25, extent, rule({}))).toBe(0.25);
  expect(shaped(25, extent, rule({ order: 'asc' }))).toBe(0.75);
  expect(shaped(9, extent, rule({ shape: 'log' }))).toBeCloseTo(Math.log(10) / Math.log(101));
  expect(shaped(5, { min: 5, max: 5 }, rule({}))).toBe(1);
  const days = (count: number): number => count * 86_400_000;
  expect(shaped(days(90), { min: 0, max: days(100) }, rule({ shape: 'recency' }))).toBe(0.5);
});

test('dates and times of ISO 8601, in UTC unless they say otherwise', () => {
  expect(parseDate('2026-05-01')).toBe(Date.UTC(2026, 4, 1));
  expect(parseDate('2026-05')).toBe(Date.UTC(2026, 4, 1));
  expect(parseDate('2026-05-01 12:30')).toBe(Date.UTC(2026, 4, 1, 12, 30));
  expect(parseDate('2026-05-01T12:30:00+02:00')).toBe(Date.UTC(2026, 4, 1, 10, 30));
  for (const none of ['soon', '1987*', '12', '2026-13-01', '5/1/2026']) expect(parseDate(none)).toBeNaN();
});

test('synonyms are compiled once for one list and a language, and looked up in the forms of each', () => {
  const tuning = completeTuning({ synonyms: [{ kind: 'same', words: ['shrubs', 'bush'] }] });
  const compiled = compiledOf(tuning.synonyms);
  expect(compiled('en')).toBe(compiledOf(tuning.synonyms)('en'));
  expect(compiled('de')).not.toBe(compiled('en'));
  const found = [{ from: 0, to: 1, as: ['bush'] }];
  expect(synonymSpans(tuning, ['shrub'])).toEqual(found);
  expect(synonymSpans({ ...tuning, stems: false }, ['shrub'])).toEqual([]);
  expect(synonymSpans({ ...tuning, language: 'und' }, ['shrub'])).toEqual([]);
  const others = { otherLanguages: [{ language: 'en', fields: [] }], languageField: 'lang' };
  expect(synonymSpans({ ...tuning, language: 'und', ...others }, ['shrub'])).toEqual(found);
  expect(synonymSpans({ ...tuning, ...others, language: 'en' }, ['shrubs'])).toEqual(found);
});
